using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <summary>Up to now the third ring of every piston was an oil ring; a two-stroke has none unless its layout tells so.</summary>
    public partial class OilRings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                update cases set "Layout" = jsonb_set("Layout", '{oilRings}', '1')
                where ("Layout" ->> 'ringsPerPiston')::int = 3 and coalesce("Layout" ->> 'oilRings', '') = ''
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql("""update cases set "Layout" = "Layout" - 'oilRings'""");
    }
}
