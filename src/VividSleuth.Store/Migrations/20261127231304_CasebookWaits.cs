using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CasebookWaits : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AlterDatabase()
                .Annotation("Npgsql:PostgresExtension:pg_trgm", ",,");

            migrationBuilder.AddColumn<int>(
                name: "Away",
                table: "case_states",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "Coming",
                table: "case_states",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateOnly>(
                name: "Due",
                table: "case_states",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "ToSign",
                table: "case_states",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<List<string>>(
                name: "With",
                table: "case_states",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "Words",
                table: "cases",
                type: "text",
                nullable: true,
                computedColumnSql: "\"Title\" || ' ' || \"EngineName\" || ' ' || \"Owner\" || ' ' || \"Complaint\"",
                stored: true);

            migrationBuilder.CreateIndex(
                name: "IX_cases_Words",
                table: "cases",
                column: "Words")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            // What the cases wait for was not kept before: it is worked out at the next start.
            migrationBuilder.Sql("update case_states set \"NextRevision\" = 0");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_cases_Words",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Words",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Away",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "Coming",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "Due",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "ToSign",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "With",
                table: "case_states");

            migrationBuilder.AlterDatabase()
                .OldAnnotation("Npgsql:PostgresExtension:pg_trgm", ",,");
        }
    }
}
