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
