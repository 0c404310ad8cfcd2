namespace VividSleuth.Core.Measures;

/// <summary>Languages in which what is worked out is told.</summary>
public enum Language
{
    English,
    German,
}
