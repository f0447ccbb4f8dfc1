using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;

namespace Cursus.Web.Posts;

/// <summary>Writes and reads requests for posts as drafts and recipes keep them: in the API's own JSON.</summary>
public sealed class SavedRequest(IOptions<JsonOptions> json)
{
    /// <summary>The longest draft or recipe that is kept, in characters.</summary>
    public const int MaxLength = 100_000;

    public string Write(PostRequest request) => JsonSerializer.Serialize(request, json.Value.SerializerOptions);

    public PostRequest Read(string content) => JsonSerializer.Deserialize<PostRequest>(content, json.Value.SerializerOptions)!;
}
