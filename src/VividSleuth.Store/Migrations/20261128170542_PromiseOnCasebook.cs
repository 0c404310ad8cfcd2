using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class PromiseOnCasebook : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "Likely",
                table: "case_states",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "LikelyOn",
                table: "case_states",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Promised",
                table: "case_states",
                type: "date",
                nullable: true);

            // What the casebook keeps of cases with a promise is worked out anew.
            migrationBuilder.Sql("""UPDATE case_states SET "NextRevision" = 0 WHERE "CaseId" IN (SELECT "CaseId" FROM build_promises)""");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Likely",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "LikelyOn",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "Promised",
                table: "case_states");
        }
    }
}
