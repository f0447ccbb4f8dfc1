using System.Net;

namespace Cursus.Standins;

/// <summary>The page of a registrar, where the owner of a domain edits its records.</summary>
internal static class Registrar
{
    public const string Host = "registrar.localhost";

    public static async Task Answer(HttpContext context, Zones zones)
    {
        if (HttpMethods.IsPost(context.Request.Method))
        {
            var form = await context.Request.ReadFormAsync(context.RequestAborted);
            if (Guid.TryParse(form["remove"], out var id))
            {
                zones.Remove(id);
                Back(context, "");
            }
            else
            {
                Back(context, Add(zones, form["type"].ToString(), form["name"].ToString(), form["value"].ToString()));
            }

            return;
        }

        var rows = string.Concat(
            zones.All.Select(r =>
                $"""
                    <tr><td>{r.Type}<td>{Html.Text(r.Name)}<td>{Html.Text(r.Value)}
                    <td><form method="post"><input type="hidden" name="remove" value="{r.Id}"><button aria-label="Remove {r.Type} {Html.Text(
                        r.Name
                    )} {Html.Text(r.Value)}">Remove</button></form>
                    """
            )
        );
        var wrong = context.Request.Query["wrong"].ToString();
        await Html.Write(
            context,
            StatusCodes.Status200OK,
            "Hillfoot Names, your records",
            "#2f5d50",
            $"""
            <header>Hillfoot Names, registrar</header>
            <main><h1>Your records</h1>
            <p>Domains of Northmoor Observatory: {Html.Text(string.Join(", ", Zones.Domains))}.</p>
            <table><tr><th>Type<th>Name<th>Value<th></tr>{rows}</table>
            {(wrong.Length > 0 ? $"<p role=\"alert\"><b>{Html.Text(wrong)}</b></p>" : "")}
            <h2>Add a record</h2>
            <form method="post">
            <p><label>Type <select name="type">{string.Concat(Zones.Types.Select(t => $"<option>{t}"))}</select></label>
            <label>Name <input name="name" size="32" required></label>
            <label>Value <input name="value" size="44" required></label>
            <button>Add record</button></p>
            </form></main>
            """
        );
    }

    /// <summary>Adds a record; what is wrong with it, or nothing.</summary>
    private static string Add(Zones zones, string type, string name, string value)
    {
        var bare = name.Trim().TrimEnd('.');
        if (!Zones.Types.Contains(type))
        {
            return "There is no such type of record here.";
        }

        if (!Zones.Keeps(bare))
        {
            return $"“{bare}” belongs to none of your domains.";
        }

        if (type == "A" && !IPAddress.TryParse(value.Trim(), out _))
        {
            return $"“{value}” is no address. An A record holds one, such as 192.0.2.1.";
        }

        if (value.Trim().Length is 0 or > 250)
        {
            return "A value has from 1 to 250 characters.";
        }

        zones.Add(type, bare, value);
        return "";
    }

    private static void Back(HttpContext context, string wrong)
    {
        context.Response.StatusCode = StatusCodes.Status303SeeOther;
        context.Response.Headers.Location = wrong.Length == 0 ? "/" : "/?wrong=" + Uri.EscapeDataString(wrong);
    }
}
