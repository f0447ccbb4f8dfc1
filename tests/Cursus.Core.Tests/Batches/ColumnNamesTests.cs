using Cursus.Core.Batches;

namespace Cursus.Core.Tests.Batches;

/// <summary>Names of columns as the trade writes them (common practice, no source).</summary>
public class ColumnNamesTests
{
    [Theory]
    [InlineData("URL", ListField.Destination)]
    [InlineData(" Address ", ListField.Destination)]
    [InlineData("Landing page", ListField.Destination)]
    [InlineData("utm_source", ListField.Source)]
    [InlineData("UTM Campaign", ListField.Campaign)]
    [InlineData("utm-content", ListField.Content)]
    [InlineData("Short domain", ListField.Domain)]
    [InlineData("published_on", ListField.PublishedOn)]
    [InlineData("Short URL", ListField.ShortAddress)]
    [InlineData("Long URL", ListField.Destination)]
    [InlineData("Date created", ListField.CreatedAt)]
    [InlineData("Total clicks", ListField.ImportedClicks)]
    [InlineData("Category", ListField.Group)]
    public void A_name_is_known_whatever_its_case_spaces_and_punctuation(string name, ListField field) => ColumnNames.FieldOf(name).ShouldBe(field);

    [Theory]
    [InlineData("")]
    [InlineData("Price")]
    [InlineData("https://northmoor.example/winter")]
    public void Other_names_say_nothing(string name) => ColumnNames.FieldOf(name).ShouldBeNull();

    [Fact]
    public void Every_field_is_known_by_its_own_name_and_given_to_the_first_column_only()
    {
        foreach (var field in Enum.GetValues<ListField>())
        {
            ColumnNames.FieldsOf([field.ToString(), field.ToString()]).ShouldBe([field, null]);
        }
    }
}
