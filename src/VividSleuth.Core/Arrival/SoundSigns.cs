using VividSleuth.Core.Engines;
using VividSleuth.Core.Sounds;

namespace VividSleuth.Core.Arrival;

/// <summary>A sign that a sound is a hint of: offered, and taken by a person.</summary>
/// <param name="Place">Where it is found.</param>
/// <param name="Sign">Id of the sign.</param>
/// <param name="Level">From 1; 0 where it was listened for and is not heard.</param>
/// <param name="Chance">That it is so, at even odds beforehand.</param>
public sealed record SoundSign(string Place, string Sign, int Level, double Chance, Fact Why);

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

    // A knock that the load brings out is so much louder beside the firings, which grow louder themselves.
    private const double Grows = 1.3;

    private const double GrowsBySigmas = 2;

    // Of a cylinder that was cut out and is not the one: about all of the noise is left (common practice, no source), and it is most unlikely by all that was cut out.
    private const double LeastLeft = 0.75;

    private const double Unlikely = 0.01;

    // Logarithm of a speed over another that is the same for a knock: one cylinder less pulls it down a little.
    private const double SameSpeed = 0.15;

    // As the signs’ levels are named: cold only, warm, always; of a slap the first minute, until warm, always.
    private const int Cold = 1;

    private const int Middle = 2;

    private const int Always = 3;

    /// <summary>What a recording is to be listened to with.</summary>
    public static ListenAsk Ask(Sound sound, IReadOnlyList<double> orders) =>
        new(
            sound.Rpm,
            sound.Pickup > 0 ? sound.Pickup : null,
            sound.CutOut > 0 ? sound.CutOut : null,
            orders,
            sound.Where == HeardAt.Breather ? ListenFor.Puffs : ListenFor.Knocks
        );

    /// <summary>Of one recording.</summary>
    public static IReadOnlyList<SoundSign> Of(Heard heard, Sound sound, AddressTable table)
    {
        var signs = new List<SoundSign>();
        var band = heard.Knock is { } k ? heard.Circles[k.Band].Band : null;
        var engine = table.OfKind(PartKinds.Engine).First().Code;
        void Add(string sign, double share, Fact why, int level = Middle) =>
            signs.Add(new SoundSign(engine, sign, level, 0.5 + ((share - 0.5) * heard.Chance), why));
        if (sound.Where == HeardAt.Breather)
        {
            Puffs(heard, table, engine, signs);
            return signs;
        }

        void Knock()
        {
            if (sound.Load == HeardLoad.Overrun)
            {
                Add("knock-overrun", Shared, Fact.Of("sounds.may-be-knock-overrun"));
            }
            else
            {
                Add("knock", Shared, Fact.Of("sounds.may-be-knock"));
            }
        }

        switch (heard.Beat)
        {
            case NoiseBeat.Cycle or NoiseBeat.Turn when heard.Knock!.Soon is not null:
                Add("rap-double", Likely, Fact.Of("sounds.may-be-rap"));
                break;
            case NoiseBeat.Cycle when band!.From >= High:
                Add("noise-rattle", Likely, Fact.Of("sounds.may-be-tick"));
                break;
            case NoiseBeat.Cycle:
                Knock();
                // One that has not faded when the engine is warm is there always.
                Add("noise-slap", Shared, Fact.Of("sounds.may-be-slap"), sound.Warmth == HeardWarmth.Warm ? Always : Middle);
                break;
            case NoiseBeat.Turn:
                Knock();
                if (band!.To <= Low)
                {
                    Add("noise-rumble", Shared, Fact.Of("sounds.may-be-main"));
                }

                break;
            case NoiseBeat.Apart:
                Add("noise-grind", heard.Lines.Any(l => l.Known is not null) ? Own : Shared, Fact.Of("sounds.may-be-bearing"));
                break;
            // Light or driven it may be silent and knock when it pulls.
            case NoiseBeat.None when heard.Dead.Count == 0 && heard.Doubts.Count == 0 && sound.Load is HeardLoad.Untold or HeardLoad.Pulls:
                signs.Add(new SoundSign(engine, "knock", 0, NotHeard, Fact.Of("sounds.nothing-stands-out")));
                break;
        }

        if (heard.Dead.Count > 0 && sound.CutOut == 0)
        {
            signs.Add(new SoundSign(engine, "misfire", Middle, Own, Fact.Of("sounds.may-be-misfire")));
        }

        return signs;
    }

    /// <summary>What only a comparison tells: the same noise light and pulling, cold and warm, pulling and driven.</summary>
    public static IReadOnlyList<SoundSign> Together(IReadOnlyList<(Sound Sound, Heard Heard)> all, AddressTable table)
    {
        var near = all.Where(a => a.Sound is { Where: HeardAt.Engine, CutOut: 0 }).ToArray();
        var engine = table.OfKind(PartKinds.Engine).First().Code;
        var signs = new List<SoundSign>();
        (Sound Sound, Heard Heard)? First(Func<Sound, bool> of) =>
            near.Where(n => of(n.Sound)).Select(n => ((Sound Sound, Heard Heard)?)n).FirstOrDefault();
        static bool Knocks(Heard heard) => heard.Beat is NoiseBeat.Cycle or NoiseBeat.Turn && heard.Knock!.Soon is null;
        if (First(s => s.Load == HeardLoad.Pulls) is { } pulls && Knocks(pulls.Heard))
        {
            if (First(s => s.Load == HeardLoad.Light && Alike(s.Warmth, pulls.Sound.Warmth)) is { } light && GrowsFrom(light.Heard, pulls.Heard))
            {
                signs.Add(new SoundSign(engine, "knock", Middle, Own, Fact.Of("sounds.grows-under-load")));
            }
        }
        else if (
            First(s => s.Load == HeardLoad.Pulls) is { Heard.Beat: NoiseBeat.None, Heard.Dead.Count: 0 } quiet
            && First(s => s.Load == HeardLoad.Overrun && Alike(s.Warmth, quiet.Sound.Warmth)) is { } driven
            && Knocks(driven.Heard)
        )
        {
            signs.Add(new SoundSign(engine, "knock-overrun", Middle, Own, Fact.Of("sounds.only-on-the-overrun")));
        }

        if (
            First(s => s.Warmth == HeardWarmth.Cold) is { } cold
            && cold.Heard.Beat == NoiseBeat.Cycle
            && Knocks(cold.Heard)
            && First(s => s.Warmth == HeardWarmth.Warm && Alike(s.Load, cold.Sound.Load)) is { } warm
        )
        {
            if (warm.Heard is { Beat: NoiseBeat.None, Dead.Count: 0 })
            {
                signs.Add(new SoundSign(engine, "noise-slap", Middle, Own, Fact.Of("sounds.fades-warm")));
                signs.Add(new SoundSign(engine, "knock", Cold, Shared, Fact.Of("sounds.fades-warm-too")));
            }
            else if (Knocks(warm.Heard))
            {
                signs.Add(new SoundSign(engine, "knock", Always, Likely, Fact.Of("sounds.stays-warm")));
            }
        }

        return signs;
    }

    /// <summary>
    /// The cut-out test of what was recorded, against a recording with all running under the same load, warmth and speed: a noise that is louder for
    /// another reason would tell the wrong cylinder. Null where nothing was cut out.
    /// </summary>
    /// <exception cref="ProblemException">None with all running is alike, or no knock stands out in it.</exception>
    public static CutOutTest? CutOut(IReadOnlyList<(Sound Sound, Heard Heard)> all, IReadOnlyList<int> cylinders)
    {
        var near = all.Where(a => a.Sound.Where == HeardAt.Engine).ToArray();
        var cut = near.Where(n => n.Sound.CutOut > 0).ToArray();
        if (cut.Length == 0)
        {
            return null;
        }

        (Sound Sound, Heard Heard)[] AlikeTo(Sound sound, Heard heard) =>
            [
                .. cut.Where(c =>
                    Alike(c.Sound.Load, sound.Load)
                    && Alike(c.Sound.Warmth, sound.Warmth)
                    && Math.Abs(Math.Log(RpmOf(c.Heard) / RpmOf(heard))) < SameSpeed
                ),
            ];
        var (before, alike) = near.Where(n => n.Sound.CutOut == 0)
            .Select(n => (Before: n, Alike: AlikeTo(n.Sound, n.Heard)))
            .OrderByDescending(n => n.Alike.Length)
            .ThenByDescending(n => n.Alike.Count(a => (a.Sound.Load, a.Sound.Warmth) == (n.Before.Sound.Load, n.Before.Sound.Warmth)))
            .FirstOrDefault();
        return alike is { Length: > 0 }
            ? CutOutTest.Of(before.Heard, [.. alike.Select(a => (a.Sound.CutOut, a.Heard))], cylinders)
            : throw new ProblemException(Problem.Of("sounds", "sounds.none-alike-to-cut-out"));
    }

    private static double RpmOf(Heard heard) => Math.Max(1, heard.Track.MeanRpm(heard.Firings.Turns));

    /// <summary>Whose the noise is by the cut-out test: of the rod that is named, and of those that changed nothing.</summary>
    public static IReadOnlyList<SoundSign> Of(CutOutTest test, AddressTable table) =>
        [
            .. test
                .Results.Select(r =>
                    table.Find(PartKinds.Rod, r.Cylinder) is not { } rod ? null
                    : r.Cylinder == test.Whose
                        ? new SoundSign(
                            rod.Code,
                            "noise-goes-with-it",
                            Middle,
                            0.5 + ((Own - 0.5) * r.Chance),
                            Fact.Of("sounds.goes-with-it", ("cylinder", r.Cylinder))
                        )
                    : test.Whose is not null && r.Left > LeastLeft && r.Chance < Unlikely
                        ? new SoundSign(rod.Code, "noise-goes-with-it", 0, Likely, Fact.Of("sounds.stays-without-it", ("cylinder", r.Cylinder)))
                    : null
                )
                .OfType<SoundSign>(),
        ];

    /// <summary>What keeps more from being told.</summary>
    public static IEnumerable<Fact> Limits(Heard heard, Sound sound)
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
            yield return !heard.Placed ? Fact.Of("sounds.whose-unknown")
            : sound.Where == HeardAt.Breather ? Fact.Of("sounds.whose-puff")
            : Fact.Of("sounds.whose-valves");
        }
    }

    private static void Puffs(Heard heard, AddressTable table, string engine, List<SoundSign> signs)
    {
        if (heard.Beat != NoiseBeat.Cycle)
        {
            return;
        }

        signs.Add(new SoundSign(engine, "blow-by-high", 1, 0.5 + ((Shared - 0.5) * heard.Chance), Fact.Of("sounds.puffs-once-a-cycle")));
        if (heard.Whose is [var cylinder] && table.Find(PartKinds.Piston, cylinder) is { } piston)
        {
            signs.Add(
                new SoundSign(
                    piston.Code,
                    "puffs-with-it",
                    1,
                    0.5 + ((Likely - 0.5) * heard.Cylinders[0].Share * heard.Chance),
                    Fact.Of("sounds.puffs-with-it", ("cylinder", cylinder))
                )
            );
        }
    }

    private static bool GrowsFrom(Heard light, Heard pulls)
    {
        if (light.Circles.Count <= pulls.Knock!.Band)
        {
            return false;
        }

        var before = Sounds.Knocks.BesideFirings(light.Circles[pulls.Knock.Band], light.Firings, light.Dead);
        var after = Sounds.Knocks.BesideFirings(pulls.Circles[pulls.Knock.Band], pulls.Firings, pulls.Dead);
        var by = after.Value - (Grows * before.Value);
        return by > GrowsBySigmas * double.Hypot(after.Standard, Grows * before.Standard);
    }

    // What nobody told may be alike.
    private static bool Alike<T>(T one, T other)
        where T : struct, Enum => one.Equals(other) || one.Equals(default(T)) || other.Equals(default(T));
}
