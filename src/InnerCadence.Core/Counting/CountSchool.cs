namespace InnerCadence.Core.Counting;

/// <summary>Which syllables are spoken: 1 e &amp; a with trip-let apart, or triplets as 1 &amp; a.</summary>
public enum CountSchool { Standard, Triplet }
