using InnerCadence.Core.Music;

namespace InnerCadence.Core.Practice;

/// <summary>When something is due again: 2, 4, 8, 16 days after it went well; a failure starts over (hands.md, "Practice").</summary>
/// <param name="Interval">Days that were waited for last; nothing before the first session.</param>
public sealed record Due(DateOnly On, int? Interval)
{
    private static readonly int[] Days = [2, 4, 8, 16];

    public static Due New(DateOnly today) => new(today, null);

    public Due After(DateOnly day, bool clean)
    {
        if (!clean) return new(day.AddDays(Days[0]), Days[0]);
        var next = Interval is not { } last ? Days[0] : Days.FirstOrDefault(d => d > last, Days[^1]);
        return new(day.AddDays(next), next);
    }
}

/// <summary>Something to practise, as a plan sees it.</summary>
/// <param name="Minutes">What it takes.</param>
/// <param name="IsStopped">By pain: it is not planned.</param>
public sealed record Plannable(long Id, DateOnly Due, int Minutes, bool IsStopped);

/// <summary>One day of a week.</summary>
public sealed record PlannedDay(DateOnly Day, int Minutes, ValueList<long> Items);

public static class WeekPlan
{
    /// <summary>
    /// What is due, the longest due first, into the minutes there are; what does not fit waits for the next day that has room, and nothing
    /// is planned before it is due.
    /// </summary>
    /// <param name="minutes">For seven days from the first.</param>
    public static IReadOnlyList<PlannedDay> Of(IEnumerable<Plannable> items, DateOnly first, IReadOnlyList<int> minutes)
    {
        var left = items.Where(i => !i.IsStopped).OrderBy(i => i.Due).ThenBy(i => i.Minutes).ThenBy(i => i.Id).ToList();
        var days = new List<PlannedDay>();
        for (var d = 0; d < minutes.Count; d++)
        {
            var (day, room, planned) = (first.AddDays(d), minutes[d], new List<long>());
            foreach (var item in left.Where(i => i.Due <= day).ToList())
            {
                if (item.Minutes > room) continue;
                planned.Add(item.Id);
                room -= item.Minutes;
                left.Remove(item);
            }
            days.Add(new(day, minutes[d] - room, planned));
        }
        return days;
    }
}
