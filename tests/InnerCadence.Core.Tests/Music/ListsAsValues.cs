using System.Reflection;
using CsCheck;
using InnerCadence.Core.Counting.Reading;
using InnerCadence.Core.Music;

namespace InnerCadence.Core.Tests.Music;

/// <summary>Two records are equal where all that they hold is, lists too; else a set, a cache or a test compares nothing.</summary>
public class ListsAsValues
{
    [Fact]
    public void A_record_of_the_core_holds_its_lists_as_values()
    {
        var records = typeof(Passage).Assembly.GetTypes().Where(t => t is { IsPublic: true } && t.GetMethod("<Clone>$") is not null);
        var offering = records.SelectMany(t => t.GetProperties(BindingFlags.Public | BindingFlags.Instance | BindingFlags.DeclaredOnly)
            .Where(p => p.GetSetMethod() is not null && IsListByReference(p.PropertyType)).Select(p => $"{t.Name}.{p.Name}"));
        offering.ShouldBeEmpty("use ValueList");
    }

    private static bool IsListByReference(Type type) => type.IsArray
        || (type.IsGenericType && type.Name.Split('`')[0] is "IReadOnlyList" or "IReadOnlyCollection" or "IEnumerable" or "List"
            or "ImmutableArray");

    [Fact]
    public void Two_readings_of_one_text_are_equal_and_one_stroke_more_is_another()
    {
        static Passage Read(string text) => CountLines.Parse(text).Passage;
        const string text = "HH: 8ths\nSN: 2 4\nBD: 1 3";
        Read(text).ShouldBe(Read(text));
        Read(text).GetHashCode().ShouldBe(Read(text).GetHashCode());
        Read(text + " 4&").ShouldNotBe(Read(text));
    }

    [Fact]
    public void A_list_is_equal_to_one_with_the_same_elements_in_the_same_order() => Gen.Int[0, 3].Array[0, 5].Sample(elements =>
    {
        ValueList<int> one = elements, other = [.. elements];
        one.ShouldBe(other);
        one.GetHashCode().ShouldBe(other.GetHashCode());
        one.Equals([.. elements, 0]).ShouldBeFalse();
        one.SequenceEqual(elements).ShouldBeTrue();
        if (elements.Length > 1 && elements[0] != elements[1]) one.Equals([elements[1], elements[0], .. elements[2..]]).ShouldBeFalse();
    });

    [Fact]
    public void What_it_was_made_of_can_change_without_it()
    {
        int[] elements = [1, 2];
        ValueList<int> made = elements;
        elements[0] = 9;
        made[0].ShouldBe(1);
    }
}
