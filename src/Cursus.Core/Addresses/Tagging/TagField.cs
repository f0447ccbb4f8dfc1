namespace Cursus.Core.Addresses.Tagging;

/// <summary>The five UTM fields.</summary>
public enum TagField : short
{
    Source = 0,
    Medium = 1,
    Campaign = 2,
    Term = 3,
    Content = 4,
}
