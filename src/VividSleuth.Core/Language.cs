namespace VividSleuth.Core;

/// <summary>Languages in which what is worked out is told.</summary>
public enum Language
{
    English,
    German,
}
