using System.Text;

namespace VividSleuth.Words;

/// <summary>
/// A sentence with holes. {name} is filled in; {name:unitless} leaves the unit away; {name:start} begins with a capital; {name:; } joins a list; {name:sentence} makes one sentence of a list of sentences and parts of them
/// by what stands behind the colon; {name|one bolt|# bolts} chooses by number; [ … ] is left out where a hole in it has nothing to fill it.
/// A bracket or brace that is meant is written twice.
/// </summary>
internal sealed class Template
{
    private readonly IReadOnlyList<Piece> _pieces;

    private Template(IReadOnlyList<Piece> pieces) => _pieces = pieces;

    /// <summary>Names of the holes.</summary>
    public IEnumerable<string> Holes => Of(_pieces);

    /// <exception cref="FormatException">A bracket or brace is open.</exception>
    public static Template Parse(string text)
    {
        var at = 0;
        var pieces = Pieces(text, ref at, inside: false);
        return new Template(pieces);
    }

    public string Fill(IFiller filler)
    {
        var said = new StringBuilder();
        Fill(_pieces, filler, said);
        return said.ToString();
    }

    /// <summary>False where a hole had nothing to fill it.</summary>
    private static bool Fill(IReadOnlyList<Piece> pieces, IFiller filler, StringBuilder said)
    {
        var whole = true;
        foreach (var piece in pieces)
        {
            switch (piece)
            {
                case Words words:
                    said.Append(words.Text);
                    break;
                case Hole hole:
                    var text = filler.Fill(hole);
                    whole &= text.Length > 0;
                    said.Append(text);
                    break;
                case Maybe maybe:
                    var inside = new StringBuilder();
                    if (Fill(maybe.Pieces, filler, inside))
                    {
                        said.Append(inside);
                    }

                    break;
            }
        }

        return whole;
    }

    private static IEnumerable<string> Of(IReadOnlyList<Piece> pieces) =>
        pieces.SelectMany(p =>
            p switch
            {
                Hole h => [h.Name],
                Maybe m => Of(m.Pieces),
                _ => Enumerable.Empty<string>(),
            }
        );

    private static List<Piece> Pieces(string text, ref int at, bool inside)
    {
        var pieces = new List<Piece>();
        var words = new StringBuilder();
        void Close()
        {
            if (words.Length > 0)
            {
                pieces.Add(new Words(words.ToString()));
                words.Clear();
            }
        }

        while (at < text.Length)
        {
            var c = text[at++];
            if (c is '[' or ']' or '{' or '}' && at < text.Length && text[at] == c)
            {
                words.Append(c);
                at++;
            }
            else if (c == '{')
            {
                Close();
                var end = text.IndexOf('}', at);
                if (end < 0)
                {
                    throw new FormatException($"A brace is open in: {text}");
                }

                pieces.Add(Hole.Parse(text[at..end]));
                at = end + 1;
            }
            else if (c == '[')
            {
                Close();
                pieces.Add(new Maybe(Pieces(text, ref at, inside: true)));
            }
            else if (c == ']' && inside)
            {
                Close();
                return pieces;
            }
            else
            {
                words.Append(c);
            }
        }

        Close();
        return inside ? throw new FormatException($"A bracket is open in: {text}") : pieces;
    }

    internal abstract record Piece;

    internal sealed record Words(string Text) : Piece;

    internal sealed record Maybe(IReadOnlyList<Piece> Pieces) : Piece;

    /// <param name="How">What stands behind the colon; empty where nothing does.</param>
    /// <param name="One">Told for one; empty where the number decides nothing.</param>
    internal sealed record Hole(string Name, string How, string One, string Many) : Piece
    {
        public static Hole Parse(string inside)
        {
            var choices = inside.Split('|');
            if (choices.Length == 3)
            {
                return new Hole(choices[0], "", choices[1], choices[2]);
            }

            var colon = inside.IndexOf(':', StringComparison.Ordinal);
            return colon < 0 ? new Hole(inside, "", "", "") : new Hole(inside[..colon], inside[(colon + 1)..], "", "");
        }
    }
}

/// <summary>Says what fills a hole; empty where nothing does.</summary>
internal interface IFiller
{
    string Fill(Template.Hole hole);
}
