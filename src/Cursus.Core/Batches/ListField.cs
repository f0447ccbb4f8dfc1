namespace Cursus.Core.Batches;

/// <summary>What a column of a list says about the links to be made from its lines.</summary>
public enum ListField
{
    Destination,
    Title,
    Channel,
    Campaign,
    Source,
    Medium,
    Term,
    Content,
    Slug,
    Domain,
    Tags,
    Folder,
    Note,
    Redirect,
    PublishedOn,
}
