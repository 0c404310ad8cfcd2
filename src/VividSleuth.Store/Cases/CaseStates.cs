using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using VividSleuth.Core;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;

namespace VividSleuth.Store.Cases;

/// <summary>Keeps the state of each case beside its records: taken first in every write, and told to all instances when it is committed.</summary>
public static class CaseStates
{
    /// <summary>PostgreSQL channel on which every new revision is told: id of the case, a space, the revision.</summary>
    public const string Channel = "cases";

    /// <summary>What a write changes in the numbers that stand on its case.</summary>
    private sealed class Delta
    {
        public bool IsNew { get; set; }

        /// <summary>The case itself is taken back or taken up again.</summary>
        public bool Revives { get; set; }

        public int Numbering { get; set; }

        public int Findings { get; set; }

        public int Readings { get; set; }

        public int Steps { get; set; }

        public int Conclusions { get; set; }
    }

    /// <summary>Raises the revisions of the cases that are about to be written. Called inside the transaction, before anything is sent.</summary>
    internal static async Task RaiseAsync(SleuthDb db, CancellationToken cancel)
    {
        // In the order of ids, so that two who write to the same two cases wait for one another and not for ever.
        foreach (var (id, delta) in Deltas(db.ChangeTracker).OrderBy(d => d.Key))
        {
            if (delta.IsNew)
            {
                KnownNumbering.Check(db.KnownNumbering, delta.Numbering);
                db.Add(
                    new CaseState
                    {
                        CaseId = id,
                        Revision = 1,
                        Numbering = delta.Numbering,
                        LastAt = db.Now(),
                        LastBy = db.Writer,
                        Findings = delta.Findings,
                        Readings = delta.Readings,
                        Steps = delta.Steps,
                        Conclusions = delta.Conclusions,
                    }
                );
                db.Raised = 1;
                continue;
            }

            var stamps = await db
                .Database.SqlQuery<Raised>(
                    $"""
                    with state as (
                        update case_states set "Revision" = "Revision" + 1, "Numbering" = "Numbering" + {delta.Numbering},
                            "LastAt" = {db.Now()}, "LastBy" = {db.Writer},
                            "Findings" = "Findings" + {delta.Findings}, "Readings" = "Readings" + {delta.Readings},
                            "Steps" = "Steps" + {delta.Steps}, "Conclusions" = "Conclusions" + {delta.Conclusions}
                        where "CaseId" = {id} returning "CaseId", "Revision", "Numbering")
                    select "Revision", "Numbering", c."WithdrawnAt" is not null as "Withdrawn",
                        pg_notify({Channel}, "CaseId"::text || ' ' || "Revision")::text as told
                    from state join cases c on c."Id" = state."CaseId"
                    """
                )
                .ToListAsync(cancel);
            if (stamps.Count == 0)
            {
                throw new NotHereException("case");
            }

            if (stamps[0].Withdrawn && !delta.Revives)
            {
                throw new ProblemException(Problem.Of("case", "server.case-is-withdrawn"));
            }

            KnownNumbering.Check(db.KnownNumbering, stamps[0].Numbering - delta.Numbering);
            db.Raised = stamps[0].Revision;
        }
    }

    private sealed record Raised(long Revision, int Numbering, bool Withdrawn);

    private static Dictionary<Guid, Delta> Deltas(ChangeTracker tracker)
    {
        var deltas = new Dictionary<Guid, Delta>();
        foreach (var entry in tracker.Entries<CaseRecord>().Where(e => e.State is EntityState.Added or EntityState.Modified))
        {
            var record = entry.Entity;
            var id = record is EngineCase ? record.Id : record.CaseId;
            if (!deltas.TryGetValue(id, out var delta))
            {
                deltas[id] = delta = new Delta();
            }

            var stood = entry.State == EntityState.Modified && entry.OriginalValues.GetValue<DateTimeOffset?>(nameof(CaseRecord.WithdrawnAt)) is null;
            var change = (record.Stands() ? 1 : 0) - (stood ? 1 : 0);
            switch (record)
            {
                case EngineCase:
                    delta.IsNew |= entry.State == EntityState.Added;
                    delta.Revives |= entry.Property(r => r.WithdrawnAt).IsModified;
                    break;
                case Renumbering:
                    // Counted even if it were taken back: whoever knows of fewer has another numbering on the screen.
                    delta.Numbering += entry.State == EntityState.Added ? 1 : 0;
                    break;
                case Finding:
                    delta.Findings += change;
                    break;
                case Reading:
                    delta.Readings += change;
                    break;
                case StepRecord:
                    delta.Steps += change;
                    break;
                case Conclusion:
                    delta.Conclusions += change;
                    break;
            }
        }

        return deltas;
    }
}
