using System.Collections.Concurrent;

namespace Cursus.Standins;

/// <summary>How pages of the destination sites behave. On a page of its own anybody can let one die, and bring it back.</summary>
internal sealed class Moods
{
    public const string Host = "moods.localhost";

    /// <summary>What can befall a page.</summary>
    public static readonly IReadOnlyDictionary<string, string> All = new Dictionary<string, string>
    {
        ["well"] = "answers as it should",
        ["gone"] = "has been taken down (410)",
        ["failing"] = "answers with an error (500)",
        ["hanging"] = "never answers",
        ["circling"] = "sends visitors round in circles",
        ["lying"] = "says that it isn't there, with status 200",
        ["renamed"] = "is about something else",
        ["moved"] = "has moved for good",
        ["shut"] = "shows itself to nobody (403)",
    };

    private readonly ConcurrentDictionary<string, string> moods = new(StringComparer.OrdinalIgnoreCase)
    {
        ["lensworks.localhost/products/starter-kit-70"] = "gone",
        ["lensworks.localhost/guides/binoculars"] = "lying",
        ["skycalendar.localhost/occultations"] = "moved",
    };

    /// <param name="page">Host and path.</param>
    public string Of(string page) => moods.GetValueOrDefault(page, "well");

    public async Task Answer(HttpContext context)
    {
        if (HttpMethods.IsPost(context.Request.Method))
        {
            var form = await context.Request.ReadFormAsync(context.RequestAborted);
            var page = form["page"].ToString().Trim().Replace("http://", "", StringComparison.OrdinalIgnoreCase);
            if (All.ContainsKey(form["mood"].ToString()) && Uri.TryCreate("http://" + page, UriKind.Absolute, out var address))
            {
                moods[address.Host + address.AbsolutePath] = form["mood"].ToString();
            }

            context.Response.StatusCode = StatusCodes.Status303SeeOther;
            context.Response.Headers.Location = "/";
            return;
        }

        static string Choice(string chosen) =>
            string.Concat(All.Select(m => $"<option value=\"{m.Key}\"{(m.Key == chosen ? " selected" : "")}>{Html.Text(m.Value)}"));
        var rows = string.Concat(
            moods
                .OrderBy(m => m.Key, StringComparer.Ordinal)
                .Select(m =>
                    $"""
                        <tr><td>{Html.Text(m.Key)}<td><form method="post"><input type="hidden" name="page" value="{Html.Text(m.Key)}">
                        <select name="mood" aria-label="What {Html.Text(m.Key)} does">{Choice(m.Value)}</select> <button>Set</button></form>
                        """
                )
        );
        await Html.Write(
            context,
            StatusCodes.Status200OK,
            "Moods of pages",
            "#4c3a52",
            $"""
            <header>Moods of pages</header>
            <main><h1>What pages do</h1><p>Every other page of the sites answers as it should.</p>
            <table><tr><th>Page<th>What it does</tr>{rows}</table>
            <h2>Another page</h2>
            <form method="post"><p><label>Address <input name="page" size="44" required></label>
            <label>What it does <select name="mood">{Choice("gone")}</select></label> <button>Set</button></p></form></main>
            """
        );
    }
}
