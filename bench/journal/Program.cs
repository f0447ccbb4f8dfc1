using System.Diagnostics;
using System.Globalization;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Journaling;
using NodaTime;

// What it costs a redirect to write its click down, on a disk with room and on one that is full. Takes two folders; the second lies on a small disk
// that this program fills.
const int Clicks = 20_000;
const int Rounds = 15;
var (roomy, small) = (args[0], args[1]);
using var withRoom = new ClickJournal(Path.Combine(roomy, "journal"), new JournalOptions());
using var full = new ClickJournal(Path.Combine(small, "journal"), new JournalOptions(SegmentSize: 64 * 1024));
using (var others = File.Create(Path.Combine(small, "others")))
{
    try
    {
        while (true)
        {
            others.Write(new byte[4096]);
            others.Flush();
        }
    }
    catch (IOException)
    {
        // Full.
    }
}

while (full.Lost < 1000)
{
    full.Append(Visit(0));
}

var (usual, lost) = (new List<double>(), new List<double>());
for (var round = 0; round < Rounds; round++)
{
    usual.Add(Microseconds(withRoom));
    lost.Add(Microseconds(full));
}

usual.Sort();
lost.Sort();
var (one, other) = (usual[Rounds / 2], lost[Rounds / 2]);
Console.WriteLine(
    string.Create(
        CultureInfo.InvariantCulture,
        $"a click on a disk with room: {one:F2} µs, on a full one: {other:F2} µs ({lost[0]:F2} to {lost[^1]:F2}); {full.Lost:N0} counted as lost"
    )
);
return other - one <= 10 ? 0 : 1;

static double Microseconds(ClickJournal journal)
{
    var began = Stopwatch.GetTimestamp();
    for (var click = 0; click < Clicks; click++)
    {
        journal.Append(Visit(click));
    }

    return Stopwatch.GetElapsedTime(began).TotalMicroseconds / Clicks;
}

static Visit Visit(int number) =>
    new()
    {
        At = Instant.FromUnixTimeSeconds(1_795_000_000),
        LinkId = Guid.Empty,
        Visitor = number,
        ReferrerHost = "perch.localhost",
        UserAgent = "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/1",
        Language = "en",
    };
