using VividSleuth.Core.Casebook;

namespace VividSleuth.Bench;

/// <summary>Where the demo lies, found from where the program runs.</summary>
internal static class Demo
{
    public static string Root { get; } = Find();

    public static string Six => Path.Combine(Root, "demo/cases/biogas-six.case.json");

    public static string Picture => Path.Combine(Root, "demo/pictures/shell-r4u.jpg");

    private static string Find()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder!.FullName, "VividSleuth.slnx")))
        {
            folder = folder.Parent;
        }

        return folder.FullName;
    }
}
