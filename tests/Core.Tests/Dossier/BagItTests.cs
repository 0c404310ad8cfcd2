using VividSleuth.Core.Dossier;

namespace VividSleuth.Core.Tests.Dossier;

/// <summary>The text files of a bag. Source: RFC 8493, sections named at each; its examples as remembered.</summary>
public sealed class BagItTests
{
    private static string Of(char digit) => new(digit, 64);

    private static string[] Codes(Action act) => [.. Should.Throw<ProblemException>(act).Problems.Select(p => p.Text.Code)];

    /// <summary>4.1, the basic bag: a manifest lists a digest, blanks and a path, in whatever case of letters and with any end of line.</summary>
    [Theory]
    [InlineData("\n", " ")]
    [InlineData("\r\n", "  ")]
    [InlineData("\r", "\t")]
    public void A_manifest_is_read_with_any_end_of_line_and_any_blank(string end, string blank)
    {
        var text = $"{Of('A')}{blank}data/27613-h/images/q172.png{end}{Of('b')}{blank}data/27613-h/images/q172.txt{end}";
        var read = BagIt.ReadManifest("manifest-sha256.txt", text);
        read.Count.ShouldBe(2);
        read["data/27613-h/images/q172.png"].ShouldBe(Of('a'));
        read["data/27613-h/images/q172.txt"].ShouldBe(Of('b'));
    }

    /// <summary>2.1.3: a line end in a path is escaped, and the sign of escaping too; nothing else is.</summary>
    [Fact]
    public void A_path_with_a_per_cent_sign_or_a_blank_in_it_comes_back_as_it_was()
    {
        var text = BagIt.WriteManifest([("data/50 % worn.jpg", Of('1')), ("data/%0A.txt", Of('2'))]);
        text.ShouldContain("data/50 %25 worn.jpg");
        text.ShouldContain("data/%250A.txt");
        BagIt.ReadManifest("manifest-sha256.txt", text).Keys.ShouldBe(["data/50 % worn.jpg", "data/%0A.txt"], ignoreOrder: true);
    }

    /// <summary>6.1.3: what leads out of the bag, stands for something else on another system, or looks like another path.</summary>
    [Theory]
    [InlineData("/etc/passwd")]
    [InlineData("data/../../etc/passwd")]
    [InlineData("../data/a")]
    [InlineData("data/./a")]
    [InlineData("data//a")]
    [InlineData("data\\a")]
    [InlineData("C:/a")]
    [InlineData("~/a")]
    [InlineData("data/a.")]
    [InlineData("data/a ")]
    [InlineData("data/a\u202Egnp.exe")]
    [InlineData("data/a\u0000b")]
    [InlineData("data/e\u0301.txt")]
    [InlineData("")]
    public void A_path_that_leads_elsewhere_or_is_not_what_it_looks_is_none(string path) => BagIt.WrongPath(path).ShouldBeTrue();

    [Theory]
    [InlineData("data/pictures/K4-01940000-281a-785e-8d77-087680c486b4.jpg")]
    [InlineData("data/Pleuellager 4 größer.txt")]
    [InlineData("bag-info.txt")]
    public void An_ordinary_path_is_one(string path) => BagIt.WrongPath(path).ShouldBeFalse();

    [Fact]
    public void A_manifest_that_cannot_be_believed_is_refused_by_what_is_wrong_with_it()
    {
        Codes(() => BagIt.ReadManifest("manifest-md4.txt", "")).ShouldBe(["bag.digest-not-known"]);
        Codes(() => BagIt.ReadManifest("manifest-sha256.txt", $"{Of('g')}  data/a\n")).ShouldBe(["bag.line-is-none"]);
        Codes(() => BagIt.ReadManifest("manifest-sha512.txt", $"{Of('a')}  data/a\n")).ShouldBe(["bag.line-is-none"]);
        Codes(() => BagIt.ReadManifest("manifest-sha256.txt", $"{Of('a')}\n")).ShouldBe(["bag.line-is-none"]);
        Codes(() => BagIt.ReadManifest("manifest-sha256.txt", $"{Of('a')}  ../a\n")).ShouldBe(["bag.path-leads-out"]);
        // On some systems they are one file.
        Codes(() => BagIt.ReadManifest("manifest-sha256.txt", $"{Of('a')}  data/a\n{Of('b')}  data/A\n")).ShouldBe(["bag.path-twice"]);
    }

    /// <summary>2.2.2: a label, a colon and a value; a line that begins with a blank goes on with the one before, and a label may stand twice.</summary>
    [Fact]
    public void What_a_bag_says_of_itself_is_read_over_several_lines()
    {
        const string text =
            "Source-Organization: A made-up shop\nExternal-Description: Inline six,\n   big end 4\nContact-Name: one\nContact-Name: two\n";
        BagIt
            .ReadInfo(text)
            .ShouldBe([
                ("Source-Organization", "A made-up shop"),
                ("External-Description", "Inline six, big end 4"),
                ("Contact-Name", "one"),
                ("Contact-Name", "two"),
            ]);
        Codes(() => BagIt.ReadInfo("no label\n")).ShouldBe(["bag.line-is-none"]);
        BagIt.WriteInfo([("A", "one\ntwo"), ("B", "")]).ShouldBe("A: one two\n");
    }

    /// <summary>2.1.1.</summary>
    [Theory]
    [InlineData("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n", true)]
    [InlineData("BagIt-Version: 0.97\r\nTag-File-Character-Encoding: UTF-8", true)]
    [InlineData("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-16\n", false)]
    [InlineData("BagIt-Version: 2.0\nTag-File-Character-Encoding: UTF-8\n", false)]
    [InlineData("Tag-File-Character-Encoding: UTF-8\nBagIt-Version: 1.0\n", false)]
    [InlineData("", false)]
    public void A_bag_declares_its_version_and_letters(string text, bool declares) => BagIt.IsDeclaration(text).ShouldBe(declares);

    [Fact]
    public void Manifests_are_told_apart_by_their_names()
    {
        BagIt.AlgorithmOf("manifest-sha512.txt").ShouldBe("sha512");
        BagIt.AlgorithmOf("tagmanifest-sha256.txt").ShouldBe("sha256");
        BagIt.AlgorithmOf("manifests.txt").ShouldBeNull();
        BagIt.IsTagManifest("manifest-sha256.txt").ShouldBeFalse();
        BagIt.IsTagManifest("tagmanifest-sha256.txt").ShouldBeTrue();
        // 2.2.2: octets, a stop, streams.
        BagIt.PayloadOxum(279164409832, 1198).ShouldBe("279164409832.1198");
    }
}
