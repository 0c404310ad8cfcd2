namespace VividSleuth.Core.Measures;

/// <summary>Which of several figures of a part stands for it.</summary>
public enum Take
{
    Mean,
    Least,
    Greatest,
}
