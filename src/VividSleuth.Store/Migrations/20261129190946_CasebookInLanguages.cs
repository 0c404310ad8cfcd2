using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CasebookInLanguages : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "NextIn",
                table: "case_states",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'::jsonb");

            // What the casebook says is told in each language from here on: it is worked out anew, one case after the other.
            migrationBuilder.Sql("""update case_states set "NextRevision" = -1""");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "NextIn",
                table: "case_states");
        }
    }
}
