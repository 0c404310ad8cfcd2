using System.Text.Json;
using Microsoft.AspNetCore.DataProtection.EntityFrameworkCore;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;
using VividSleuth.Core;
using VividSleuth.Core.Arrival;
using VividSleuth.Core.Build;
using VividSleuth.Core.Casebook;
using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Index;
using VividSleuth.Core.Look;
using VividSleuth.Core.Shop;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Trace;
using VividSleuth.Core.Verdict;
using VividSleuth.Store.Cases;
using VividSleuth.Store.Dossier;
using VividSleuth.Store.Look;
using VividSleuth.Store.Shop;

namespace VividSleuth.Store;

/// <summary>
/// The shop's database: the core's own classes, sign-in, keys and pictures. Every write of a case's record is stamped with who
/// and when, its version grows, and what it was before is kept.
/// </summary>
public sealed class SleuthDb(DbContextOptions<SleuthDb> options, TimeProvider time) : IdentityDbContext<Person>(options), IDataProtectionKeyContext
{
    public DbSet<EngineCase> Cases => Set<EngineCase>();

    public DbSet<Tightening> Tightenings => Set<Tightening>();

    public DbSet<Instrument> Instruments => Set<Instrument>();

    public DbSet<GaugeStudy> GaugeStudies => Set<GaugeStudy>();

    public DbSet<Beat> Beats => Set<Beat>();

    public DbSet<Change> Changes => Set<Change>();

    public DbSet<PhotoContent> PhotoContents => Set<PhotoContent>();

    public DbSet<OriginalFile> Originals => Set<OriginalFile>();

    public DbSet<DossierLink> Links => Set<DossierLink>();

    public DbSet<LinkView> LinkViews => Set<LinkView>();

    public DbSet<Seal> Seals => Set<Seal>();

    public DbSet<SealFile> SealFiles => Set<SealFile>();

    public DbSet<SealKey> SealKeys => Set<SealKey>();

    public DbSet<FilePiece> FilePieces => Set<FilePiece>();

    public DbSet<DataProtectionKey> DataProtectionKeys => Set<DataProtectionKey>();

    public DbSet<ShopSettings> Settings => Set<ShopSettings>();

    public DbSet<CalendarFeed> Feeds => Set<CalendarFeed>();

    public DbSet<Lesson> Lessons => Set<Lesson>();

    public DbSet<StockPart> Stock => Set<StockPart>();

    public DbSet<Supplier> Suppliers => Set<Supplier>();

    public DbSet<ShopCause> Causes => Set<ShopCause>();

    public DbSet<ShopScript> Scripts => Set<ShopScript>();

    public DbSet<EngineKind> Kinds => Set<EngineKind>();

    public DbSet<FleetEngine> Fleet => Set<FleetEngine>();

    public DbSet<FleetEntry> FleetEntries => Set<FleetEntry>();

    public DbSet<SchoolClass> Classes => Set<SchoolClass>();

    public DbSet<Bench> Benches => Set<Bench>();

    public DbSet<Homework> Homework => Set<Homework>();

    public DbSet<HomeworkTry> HomeworkTries => Set<HomeworkTry>();

    public DbSet<CaseState> States => Set<CaseState>();

    public DbSet<CaseIndex> CaseIndex => Set<CaseIndex>();

    public DbSet<CaseWord> CaseWords => Set<CaseWord>();

    public DbSet<ShopState> ShopStates => Set<ShopState>();

    public DbSet<LabelJob> LabelJobs => Set<LabelJob>();

    public DbSet<LabelPrinter> Printers => Set<LabelPrinter>();

    public DbSet<Session> Sessions => Set<Session>();

    public DbSet<Invitation> Invitations => Set<Invitation>();

    /// <summary>People with passkeys beside passwords. Whoever makes this context sets it.</summary>
    public static Version SchemaOfPeople => IdentitySchemaVersions.Version3;

    private static readonly LostTransaction Lost = new();

    /// <summary>So long an entry may wait on a device for a network; one that is said to be older has the time at which it came.</summary>
    public static readonly TimeSpan LongestWait = TimeSpan.FromDays(60);

    /// <summary>Who is writing; set once a request.</summary>
    public string Writer { get; set; } = "";

    /// <summary>When it was entered, if that was before it could be sent; null for now.</summary>
    public DateTimeOffset? EnteredAt { get; set; }

    /// <summary>True while a case file is read in, whose records keep the stamps they came with.</summary>
    public bool KeepStamps { get; set; }

    /// <summary>True while records move with the numbering: who wrote them wrote them all the same.</summary>
    public bool KeepWriters { get; set; }

    /// <summary>How many changes of numbering the screen knows of that sends the write; null where it does not tell.</summary>
    public int? KnownNumbering { get; set; }

    /// <summary>The case was read, and stands in a newer numbering than the writer knows: nothing of it is written.</summary>
    public bool KnowsOldNumbering { get; set; }

    /// <summary>Revision of the case that was written last; null where none was.</summary>
    public long? Raised { get; internal set; }

    /// <summary>
    /// Saves all or nothing. What is written of a case raises its revision first, which holds the case until the transaction ends.
    /// </summary>
    /// <exception cref="NotHereException">A record belongs to a case that is not there.</exception>
    /// <exception cref="ProblemException">The numbering of the case is another than the one the writer knows.</exception>
    public override async Task<int> SaveChangesAsync(bool acceptAllChangesOnSuccess, CancellationToken cancellationToken = default)
    {
        if (!KeepStamps)
        {
            Stamp();
        }

        var shop = ChangeTracker
            .Entries()
            .Any(e =>
                e.State is EntityState.Added or EntityState.Modified
                && e.Entity is Instrument or GaugeStudy or ShopSettings or ShopCause or ShopScript or StockPart or Supplier
            );
        if (!shop && !ChangeTracker.Entries<CaseRecord>().Any(e => e.State is EntityState.Added or EntityState.Modified))
        {
            return await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
        }

        await using var own = Database.CurrentTransaction is null ? await Database.BeginTransactionAsync(cancellationToken) : null;
        await CaseStates.RaiseAsync(this, cancellationToken);
        if (shop)
        {
            await Database.ExecuteSqlAsync($"""update shop_state set "Revision" = "Revision" + 1""", cancellationToken);
        }

        var written = await base.SaveChangesAsync(acceptAllChangesOnSuccess, cancellationToken);
        await (own?.CommitAsync(cancellationToken) ?? Task.CompletedTask);
        return written;
    }

    protected override void OnConfiguring(DbContextOptionsBuilder optionsBuilder) => optionsBuilder.AddInterceptors(Lost);

    protected override void OnModelCreating(ModelBuilder builder)
    {
        base.OnModelCreating(builder);
        builder.HasPostgresExtension("pg_trgm");
        builder.Entity<Beat>(b =>
        {
            b.ToTable("beats");
            b.Property(x => x.Id).ValueGeneratedNever();
        });
        builder.Entity<EngineCase>(e =>
        {
            e.ToTable("cases");
            e.Ignore(c => c.CaseId);
            e.Property<string>(CaseSearch.Words)
                .HasComputedColumnSql(""" "Title" || ' ' || "EngineName" || ' ' || "Owner" || ' ' || "Complaint" """.Trim(), stored: true);
            e.HasIndex(CaseSearch.Words).HasMethod("gin").HasOperators("gin_trgm_ops");
            e.Property<string>(CaseSearch.KindName).HasComputedColumnSql("lower(btrim(split_part(\"EngineName\", ',', 1)))", stored: true);
            e.HasIndex(CaseSearch.KindName, nameof(EngineCase.At));
            e.Property<string>(CaseSearch.SerialKey).HasComputedColumnSql("lower(btrim(\"Serial\"))", stored: true);
            e.HasIndex(CaseSearch.SerialKey);
            e.HasIndex(c => c.KindId);
            e.HasIndex(c => c.WithdrawnAt).HasFilter("\"WithdrawnAt\" IS NOT NULL");
            e.HasIndex(c => c.ComebackOf);
            e.HasIndex(c => c.Prefix);
            AsJson(e.Property(c => c.Layout));
            AsJson(e.Property(c => c.Risks));
            AsJson(e.Property(c => c.Variants)).HasDefaultValueSql("'[]'::jsonb");
            Record(e);
            e.HasMany(c => c.Candidates).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Stows).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Parts).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Steps).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.OwnSteps).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.StepMarks).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.FastenerMoves).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.SignOffs).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Renumberings).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Findings).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Photos).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.PhotoMarks).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.PictureMeasures).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Sounds).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Debris).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Readings).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Limits).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Sizes).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Examinations).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Verdicts).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Options).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.OptionAnswers).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Choices).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.OrderLines).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.OrderMoves).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Offers).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Conclusions).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.BuildTasks).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.BuildPromises).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.BackActs).WithOne().HasForeignKey(r => r.CaseId);
            e.HasMany(c => c.Tightenings).WithOne().HasForeignKey(r => r.CaseId);
        });
        Child<Candidate>(builder, "candidates", e => e.HasIndex(c => new { c.CaseId, c.Letter }).IsUnique());
        Child<Part>(builder, "parts");
        Child<Stow>(
            builder,
            "stows",
            e =>
            {
                AsJson(e.Property(s => s.Items));
                e.HasIndex(s => new { s.CaseId, s.Code }).IsUnique();
            }
        );
        Child<StepRecord>(
            builder,
            "steps",
            e =>
            {
                AsJson(e.Property(s => s.Overrides)).HasDefaultValueSql("'[]'::jsonb");
                AsJson(e.Property(s => s.Stations)).HasDefaultValueSql("'[]'::jsonb");
            }
        );
        Child<OwnStep>(builder, "own_steps", e => AsJson(e.Property(o => o.Step)));
        Child<StepMark>(builder, "step_marks");
        Child<FastenerMove>(builder, "fastener_moves");
        Child<SignOff>(builder, "sign_offs");
        Child<Renumbering>(
            builder,
            "renumberings",
            e =>
            {
                AsJson(e.Property(r => r.Before));
                AsJson(e.Property(r => r.After));
                AsJson(e.Property(r => r.Map));
            }
        );
        // That two who press at once are not both recorded is held by the case's lock: a step has several records, by station, and several signatures.
        builder.Entity<SignOff>().HasIndex(s => new { s.CaseId, s.Step });
        builder.Entity<SignOff>().Property(s => s.Outcome).HasDefaultValue(SignOutcome.Signed);
        builder.Entity<StepRecord>().HasIndex(s => new { s.CaseId, s.Step });
        Child<Finding>(builder, "findings", e => e.Property(f => f.DoneBy).HasDefaultValue(DoneBy.Running));
        Child<Photo>(builder, "photos");
        Child<PhotoMark>(builder, "photo_marks", e => e.HasOne<Photo>().WithMany().HasForeignKey(m => m.Photo));
        Child<PictureMeasure>(builder, "picture_measures", e => e.HasOne<Photo>().WithMany().HasForeignKey(m => m.Photo));
        Child<Sound>(builder, "sounds");
        Child<Debris>(builder, "debris", e => e.Property(d => d.DoneBy).HasDefaultValue(DoneBy.Running));
        Child<Reading>(builder, "readings");
        Child<Limit>(builder, "limits");
        Child<ServiceSizes>(builder, "service_sizes", e => AsJson(e.Property(s => s.Steps)));
        Child<Examination>(builder, "examinations");
        Child<RepairOption>(
            builder,
            "options",
            e =>
            {
                AsJson(e.Property(o => o.Lines));
                AsJson(e.Property(o => o.Rates));
                AsJson(e.Property(o => o.Risks));
                AsJson(e.Property(o => o.Removes));
                AsJson(e.Property(o => o.Failing));
            }
        );
        Child<OptionChoice>(builder, "option_choices");
        Child<OptionAnswer>(builder, "option_answers");
        Child<OrderLine>(
            builder,
            "order_lines",
            e =>
            {
                AsJson(e.Property(l => l.Places));
                AsJson(e.Property(l => l.Wants));
            }
        );
        Child<OrderMove>(
            builder,
            "order_moves",
            e =>
            {
                AsJson(e.Property(m => m.Reasons));
                e.HasIndex(m => m.Line);
            }
        );
        Child<SupplyOffer>(builder, "offers");
        Child<BuildTask>(
            builder,
            "build_tasks",
            e =>
            {
                AsJson(e.Property(t => t.Tools));
                AsJson(e.Property(t => t.After));
                AsJson(e.Property(t => t.Holds));
            }
        );
        Child<BuildPromise>(builder, "build_promises");
        Child<BackAct>(builder, "back_acts", e => e.Property(a => a.Instrument).HasDefaultValue(""));
        Child<Tightening>(
            builder,
            "tightenings",
            e =>
            {
                AsJson(e.Property(t => t.Passes)).HasDefaultValueSql("'[]'::jsonb");
                AsJson(e.Property(t => t.Order)).HasDefaultValueSql("'[]'::jsonb");
            }
        );
        Child<PartVerdict>(builder, "verdicts", e => AsJson(e.Property(v => v.Figures)).HasDefaultValueSql("'[]'::jsonb"));
        Child<Conclusion>(
            builder,
            "conclusions",
            e =>
            {
                // The columns keep the names that they were made with.
                e.Property(c => c.Cause).HasColumnName("Story");
                e.Property(c => c.ComputedCause).HasColumnName("ComputedStory");
            }
        );
        // One standing tag to a place: a part cannot be in two records at once.
        builder.Entity<Part>().HasIndex(p => new { p.CaseId, p.Place }).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
        builder.Entity<Instrument>(e =>
        {
            e.ToTable("instruments");
            e.Property(i => i.Id).ValueGeneratedNever();
            e.Property(i => i.Version).IsConcurrencyToken();
            e.HasIndex(i => i.Name).IsUnique();
            AsJson(e.Property(i => i.Studied)).HasDefaultValueSql("'[]'::jsonb");
        });
        builder.Entity<GaugeStudy>(e =>
        {
            e.ToTable("gauge_studies");
            e.Property(s => s.Id).ValueGeneratedNever();
            e.Property(s => s.Version).IsConcurrencyToken();
            AsJson(e.Property(s => s.Parts));
            AsJson(e.Property(s => s.People));
            AsJson(e.Property(s => s.Readings));
        });
        builder.Entity<Change>(e =>
        {
            e.ToTable("changes");
            e.Property(c => c.Id).ValueGeneratedNever();
            e.Property(c => c.Before).HasColumnType("jsonb");
            e.HasIndex(c => new { c.CaseId, c.At });
            e.HasIndex(c => c.RecordId);
        });
        builder.Entity<ShopSettings>(e =>
        {
            e.ToTable("settings");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            AsJson(e.Property(x => x.KeepingBySet));
            AsJson(e.Property(x => x.Rates)).HasDefaultValueSql("'{}'::jsonb");
            e.Property(x => x.Currency).HasDefaultValue("EUR");
            AsJson(e.Property(x => x.OpenedBy))
                .HasDefaultValueSql("'{\"fastenersOut\":\"mechanic\",\"hole\":\"mechanic\",\"empty\":\"mechanic\"}'::jsonb");
            AsJson(e.Property(x => x.Schools));
            AsJson(e.Property(x => x.Work)).HasDefaultValueSql("'{}'::jsonb");
        });
        builder.Entity<CalendarFeed>(e =>
        {
            e.ToTable("calendar_feeds");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasIndex(x => x.CaseId);
            e.HasOne<EngineCase>().WithMany().HasForeignKey(x => x.CaseId);
        });
        builder.Entity<Lesson>(e =>
        {
            e.ToTable("lessons");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasIndex(x => x.Script);
        });
        builder.Entity<StockPart>(e =>
        {
            e.ToTable("stock");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasIndex(x => x.Number).IsUnique();
        });
        builder.Entity<Supplier>(e =>
        {
            e.ToTable("suppliers");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
        });
        builder.Entity<ShopCause>(e =>
        {
            e.ToTable("shop_stories");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.Property(x => x.CauseId).HasColumnName("StoryId");
            AsJson(e.Property(x => x.Cause)).HasColumnName("Story");
            // One standing version of a cause: of two who change it at once, one is told.
            e.HasIndex(x => x.CauseId).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
        });
        builder.Entity<ShopScript>(e =>
        {
            e.ToTable("shop_scripts");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            AsJson(e.Property(x => x.Script));
            // One standing version of a script: of two who change it at once, one is told.
            e.HasIndex(x => x.ScriptId).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
        });
        builder.Entity<EngineKind>(e =>
        {
            e.ToTable("engine_kinds");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            AsJson(e.Property(x => x.Sheet));
            // One standing kind of a name: of two who write it at once, one is told.
            e.HasIndex(x => x.Name).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
        });
        builder.Entity<FleetEngine>(e =>
        {
            e.ToTable("fleet");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasIndex(x => x.Serial);
            e.HasOne<EngineKind>().WithMany().HasForeignKey(x => x.KindId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<FleetEntry>(e =>
        {
            e.ToTable("fleet_entries");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasOne<FleetEngine>().WithMany().HasForeignKey(x => x.EngineId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<SchoolClass>(e =>
        {
            e.ToTable("classes");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
        });
        builder.Entity<Bench>(e =>
        {
            e.ToTable("benches");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasOne<SchoolClass>().WithMany().HasForeignKey(x => x.ClassId).OnDelete(DeleteBehavior.Restrict);
            e.HasOne<EngineCase>().WithMany().HasForeignKey(x => x.CaseId).OnDelete(DeleteBehavior.Restrict);
            // A number and a case are of one bench: of two who give them at once, one is told.
            e.HasIndex(x => new { x.ClassId, x.Number }).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
            e.HasIndex(x => x.CaseId).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL");
            e.HasIndex(x => x.People).HasMethod("gin");
        });
        builder.Entity<Homework>(e =>
        {
            e.ToTable("homework");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasOne<SchoolClass>().WithMany().HasForeignKey(x => x.ClassId).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<HomeworkTry>(e =>
        {
            e.ToTable("homework_tries");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            AsJson(e.Property(x => x.Looks));
            AsJson(e.Property(x => x.Guesses));
            e.HasOne<Homework>().WithMany().HasForeignKey(x => x.HomeworkId).OnDelete(DeleteBehavior.Restrict);
            e.HasIndex(x => new { x.HomeworkId, x.Person }).IsUnique();
        });
        builder.Entity<LabelJob>(e =>
        {
            e.ToTable("label_jobs");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.HasIndex(x => new { x.State, x.At });
        });
        builder.Entity<LabelPrinter>(e =>
        {
            e.ToTable("label_printers");
            e.Property(x => x.Id).ValueGeneratedNever();
        });
        builder.Entity<Person>(e => e.Ignore(p => p.RecordId));
        builder.Entity<Session>(e =>
        {
            e.ToTable("sessions");
            e.HasKey(x => x.KeyHash);
            e.HasOne<Person>().WithMany().HasForeignKey(x => x.PersonId);
            e.HasIndex(x => x.Until);
        });
        builder.Entity<Invitation>(e =>
        {
            e.ToTable("invitations");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.HasIndex(x => x.CodeHash).IsUnique();
        });
        builder.Entity<SignInTries>(e =>
        {
            e.ToTable("sign_in_tries");
            e.HasKey(x => x.Key);
            e.HasIndex(x => x.At);
        });
        builder.Entity<CaseState>(e =>
        {
            e.ToTable("case_states");
            e.HasKey(x => x.CaseId);
            e.HasOne<EngineCase>().WithOne().HasForeignKey<CaseState>(x => x.CaseId);
            e.HasIndex(x => new { x.LastAt, x.CaseId });
            // What is to be worked out anew: few, and asked for with every list.
            e.HasIndex(x => x.LastAt, "IX_case_states_behind").HasFilter("\"NextRevision\" < \"Revision\"");
            e.HasIndex(x => x.LikelyOn).HasFilter("\"LikelyOn\" IS NOT NULL");
            e.Property(x => x.With).HasDefaultValueSql("'{}'");
            AsJson(e.Property(x => x.NextIn)).HasDefaultValueSql("'{}'::jsonb");
        });
        builder.Entity<CaseIndex>(e =>
        {
            e.ToTable("case_index");
            e.HasKey(x => x.CaseId);
            e.HasOne<EngineCase>().WithOne().HasForeignKey<CaseIndex>(x => x.CaseId);
            e.HasGeneratedTsVectorColumn(x => x.Terms, "english", x => x.Body);
            e.HasIndex(x => x.Terms).HasMethod("gin");
            e.Property(x => x.Looked).HasDefaultValueSql("'{}'");
            e.Property(x => x.Damaged).HasDefaultValueSql("'{}'");
            AsJson(e.Property(x => x.Figures)).HasDefaultValueSql("'{}'::jsonb");
        });
        builder.Entity<CaseMark>(e =>
        {
            e.ToTable("case_marks");
            e.HasKey(x => new { x.Mark, x.CaseId });
            e.HasOne<EngineCase>().WithMany().HasForeignKey(x => x.CaseId);
        });
        builder.Entity<CaseWord>(e =>
        {
            e.ToTable("case_words");
            e.HasKey(x => x.Word);
            e.HasIndex(x => x.Word, "IX_case_words_alike").HasMethod("gin").HasOperators("gin_trgm_ops");
        });
        builder.Entity<ShopState>(e =>
        {
            e.ToTable("shop_state");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.HasData(new ShopState());
        });
        builder.Entity<PhotoContent>(e =>
        {
            e.ToTable("photo_contents");
            e.HasKey(c => c.PhotoId);
            e.HasOne<Photo>().WithOne().HasForeignKey<PhotoContent>(c => c.PhotoId);
            e.HasOne<OriginalFile>().WithMany().HasForeignKey(c => c.Sha256).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<FilePiece>(e =>
        {
            e.ToTable("photo_pieces");
            e.Property(p => p.FileId).HasColumnName("PhotoId");
            e.HasKey(p => new { p.FileId, p.Offset });
            e.HasOne<EngineCase>().WithMany().HasForeignKey(p => p.CaseId);
            e.HasIndex(p => p.At);
        });
        builder.Entity<DossierLink>(e =>
        {
            e.ToTable("dossier_links");
            e.Property(x => x.Id).ValueGeneratedNever();
            e.Property(x => x.Version).IsConcurrencyToken();
            e.HasIndex(x => x.CaseId);
            e.HasOne<EngineCase>().WithMany().HasForeignKey(x => x.CaseId);
        });
        builder.Entity<LinkView>(e =>
        {
            e.ToTable("link_views");
            e.HasOne<DossierLink>().WithMany().HasForeignKey(x => x.LinkId);
            e.HasIndex(x => new { x.LinkId, x.At });
        });
        builder.Entity<Seal>(e =>
        {
            e.ToTable("seals");
            e.Property(s => s.Id).ValueGeneratedNever();
            e.HasOne<EngineCase>().WithMany().HasForeignKey(s => s.CaseId);
            e.HasIndex(s => new { s.CaseId, s.Number }).IsUnique();
        });
        builder.Entity<SealFile>(e =>
        {
            e.ToTable("seal_files");
            e.HasKey(f => new { f.SealId, f.Order });
            e.HasOne<Seal>().WithMany().HasForeignKey(f => f.SealId);
            // What is sealed cannot lose its pictures.
            e.HasOne<OriginalFile>().WithMany().HasForeignKey(f => f.Original).OnDelete(DeleteBehavior.Restrict);
        });
        builder.Entity<SealKey>(e =>
        {
            e.ToTable("seal_keys");
            e.HasKey(k => k.Fingerprint);
        });
        builder.Entity<OriginalFile>(e =>
        {
            e.ToTable("photo_originals");
            e.HasKey(o => o.Sha256);
        });
    }

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<Enum>().HaveConversion<string>();
        configurationBuilder.Properties<DateTimeOffset>().HaveConversion<UtcConverter>();
    }

    private static void Child<T>(
        ModelBuilder builder,
        string table,
        Action<Microsoft.EntityFrameworkCore.Metadata.Builders.EntityTypeBuilder<T>>? more = null
    )
        where T : CaseRecord
    {
        builder.Entity<T>(e =>
        {
            e.ToTable(table);
            Record(e);
            e.HasIndex(r => r.CaseId);
            more?.Invoke(e);
        });
    }

    private static void Record<T>(Microsoft.EntityFrameworkCore.Metadata.Builders.EntityTypeBuilder<T> entity)
        where T : CaseRecord
    {
        entity.Property(r => r.Id).ValueGeneratedNever();
        entity.Property(r => r.Version).IsConcurrencyToken();
    }

    private static Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<T> AsJson<T>(
        Microsoft.EntityFrameworkCore.Metadata.Builders.PropertyBuilder<T> property
    ) =>
        property
            .HasColumnType("jsonb")
            .HasConversion(
                v => JsonSerializer.Serialize(v, CaseFile.Json),
                s => JsonSerializer.Deserialize<T>(s, CaseFile.Json)!,
                new ValueComparer<T>(
                    (a, b) => JsonSerializer.Serialize(a, CaseFile.Json) == JsonSerializer.Serialize(b, CaseFile.Json),
                    v => JsonSerializer.Serialize(v, CaseFile.Json).GetHashCode(StringComparison.Ordinal)
                )
            );

    /// <summary>To the microsecond, as the database keeps it: what is answered now is what is read later.</summary>
    public DateTimeOffset Now() => ToMicrosecond(time.GetUtcNow());

    private static DateTimeOffset ToMicrosecond(DateTimeOffset at) => at.AddTicks(-(at.Ticks % TimeSpan.TicksPerMicrosecond));

    /// <summary>Keeps that a record of the shop was changed: who, when, and what it was before. Nothing here is ever changed or taken away.</summary>
    /// <param name="before">The record as JSON; null where there was none.</param>
    public void Keep(string kind, Guid recordId, string? before) =>
        Changes.Add(
            new Change
            {
                Id = Guid.CreateVersion7(),
                CaseId = Guid.Empty,
                Kind = kind,
                RecordId = recordId,
                At = Now(),
                By = Writer,
                Before = before,
            }
        );

    /// <summary>Gives an account what the program needs, and of the record of changes no more than to read and to add to it. As the owner.</summary>
    public async Task GrantAsync(string account)
    {
        var name = '"' + account.Replace("\"", "\"\"", StringComparison.Ordinal) + '"';
        // A name is no parameter of a grant; it is quoted above.
#pragma warning disable EF1003
        await Database.ExecuteSqlRawAsync(
            "grant usage on schema public to "
                + name
                + "; "
                + "grant select, insert, update, delete on all tables in schema public to "
                + name
                + "; "
                + "grant usage, select on all sequences in schema public to "
                + name
                + "; "
                + "revoke update, delete, truncate on changes, seals, seal_files from "
                + name
                + "; "
                + "revoke insert, update, delete on \"__EFMigrationsHistory\" from "
                + name
        );
#pragma warning restore EF1003
    }

    private void Stamp()
    {
        var now = Now();
        foreach (var entry in ChangeTracker.Entries<CaseRecord>().Where(e => e.State is EntityState.Added or EntityState.Modified).ToArray())
        {
            var record = entry.Entity;
            var before = entry.State == EntityState.Modified ? Before(entry) : null;
            if (entry.State == EntityState.Added)
            {
                record.At = EnteredAt is { } entered ? Entered(entered, now) : now;
                (record.By, record.Imported) = (Writer, false);
            }
            else if (entry.Property(r => r.WithdrawnAt).IsModified)
            {
                record.WithdrawnBy = record.WithdrawnAt is null ? null : Writer;
            }
            else if (!KeepWriters)
            {
                (record.At, record.By, record.Imported) = (now, Writer, false);
            }

            record.Version++;
            Changes.Add(
                new Change
                {
                    Id = Guid.CreateVersion7(),
                    CaseId = record is EngineCase ? record.Id : record.CaseId,
                    Kind = char.ToLowerInvariant(record.GetType().Name[0]) + record.GetType().Name[1..],
                    RecordId = record.Id,
                    At = now,
                    By = Writer,
                    Before = before,
                }
            );
        }
    }

    /// <summary>When a thing was entered, as whoever sends it says: not later than now, and not before anything can have waited on a device.</summary>
    private static DateTimeOffset Entered(DateTimeOffset told, DateTimeOffset now) =>
        told < now && told > now - LongestWait ? ToMicrosecond(told.ToUniversalTime()) : now;

    private static string Before(EntityEntry entry) =>
        JsonSerializer.Serialize(
            entry.Properties.Where(p => !p.Metadata.IsShadowProperty()).ToDictionary(p => p.Metadata.Name, p => p.OriginalValue),
            CaseFile.Json
        );

    private sealed class UtcConverter() : ValueConverter<DateTimeOffset, DateTimeOffset>(v => v.ToUniversalTime(), v => v);
}
