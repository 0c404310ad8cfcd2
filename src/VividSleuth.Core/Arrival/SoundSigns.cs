using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Arrival;

/// <summary>A sign that a sound is a hint of: offered, and taken by a person.</summary>
/// <param name="Sign">Id of the sign.</param>
/// <param name="Level">From 1; 0 where it was listened for and is not heard.</param>
/// <param name="Chance">That it is so, at even odds beforehand.</param>
public sealed record SoundSign(string Sign, int Level, double Chance, Fact Why);

/// <summary>
/// What a rhythm may come from. Two noises may share one, so each is a hint and none is sure: the chances are ours, no source, and far from one so that a
/// sound alone settles nothing.
/// </summary>
public static class SoundSigns
{
    private const double High = 3000;

    private const double Low = 1500;

    // Of a sign by its rhythm alone, where others share it; and where none does.
    private const double Shared = 0.65;

    private const double Likely = 0.75;

    private const double Own = 0.85;

    // What is not heard may still be there: another speed, another load, another place of the microphone.
    private const double NotHeard = 0.7;

    /// <param name="cutOut">A cylinder was silenced on purpose, and what is missing is no misfire.</param>
    public static IReadOnlyList<SoundSign> Of(Heard heard, bool cutOut)
    {
        var signs = new List<SoundSign>();
        var band = heard.Knock is { } k ? heard.Circles[k.Band].Band : null;
        void Add(string sign, double share, Fact why) => signs.Add(new SoundSign(sign, 2, 0.5 + ((share - 0.5) * heard.Chance), why));
        switch (heard.Beat)
        {
            case NoiseBeat.Cycle or NoiseBeat.Turn when heard.Knock!.Soon is not null:
                Add("rap-double", Likely, Fact.Of("sounds.may-be-rap"));
                break;
            case NoiseBeat.Cycle when band!.From >= High:
                Add("noise-rattle", Likely, Fact.Of("sounds.may-be-tick"));
                break;
            case NoiseBeat.Cycle:
                Add("knock", Shared, Fact.Of("sounds.may-be-knock"));
                Add("noise-slap", Shared, Fact.Of("sounds.may-be-slap"));
                break;
            case NoiseBeat.Turn:
                Add("knock", Shared, Fact.Of("sounds.may-be-knock"));
                if (band!.To <= Low)
                {
                    Add("noise-rumble", Shared, Fact.Of("sounds.may-be-main"));
                }

                break;
            case NoiseBeat.Apart:
                Add("noise-grind", heard.Lines.Any(l => l.Known is not null) ? Own : Shared, Fact.Of("sounds.may-be-bearing"));
                break;
            case NoiseBeat.None when heard.Dead.Count == 0 && heard.Doubts.Count == 0:
                signs.Add(new SoundSign("knock", 0, NotHeard, Fact.Of("sounds.nothing-stands-out")));
                break;
        }

        if (heard.Dead.Count > 0 && !cutOut)
        {
            signs.Add(new SoundSign("misfire", 2, Own, Fact.Of("sounds.may-be-misfire")));
        }

        return signs;
    }

    /// <summary>What keeps more from being told.</summary>
    public static IEnumerable<Fact> Limits(Heard heard)
    {
        if (heard.Firings.At.Count == 1)
        {
            yield return Fact.Of("sounds.hides-in-firing");
        }

        if (heard.Firings is { Turns: 2, At.Count: 2, Repeats: 2 })
        {
            yield return Fact.Of("sounds.only-a-turn-apart");
        }

        if (heard.Beat is NoiseBeat.Cycle or NoiseBeat.Turn && heard.Whose.Count == 0)
        {
            yield return heard.Placed ? Fact.Of("sounds.whose-valves") : Fact.Of("sounds.whose-unknown");
        }
    }
}
