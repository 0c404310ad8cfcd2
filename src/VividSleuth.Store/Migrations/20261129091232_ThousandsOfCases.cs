using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class ThousandsOfCases : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Began",
                table: "case_index",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<List<string>>(
                name: "Damaged",
                table: "case_index",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "Figures",
                table: "case_index",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'::jsonb");

            migrationBuilder.AddColumn<List<string>>(
                name: "Looked",
                table: "case_index",
                type: "text[]",
                nullable: false,
                defaultValueSql: "'{}'");

            migrationBuilder.AddColumn<string>(
                name: "KindName",
                table: "cases",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(btrim(split_part(\"EngineName\", ',', 1)))",
                stored: true);

            migrationBuilder.AddColumn<string>(
                name: "SerialKey",
                table: "cases",
                type: "text",
                nullable: true,
                computedColumnSql: "lower(btrim(\"Serial\"))",
                stored: true);

            migrationBuilder.CreateIndex(
                name: "IX_cases_ComebackOf",
                table: "cases",
                column: "ComebackOf");

            migrationBuilder.CreateIndex(
                name: "IX_cases_KindId",
                table: "cases",
                column: "KindId");

            migrationBuilder.CreateIndex(
                name: "IX_cases_KindName_At",
                table: "cases",
                columns: new[] { "KindName", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_cases_Prefix",
                table: "cases",
                column: "Prefix");

            migrationBuilder.CreateIndex(
                name: "IX_cases_SerialKey",
                table: "cases",
                column: "SerialKey");

            migrationBuilder.CreateIndex(
                name: "IX_cases_WithdrawnAt",
                table: "cases",
                column: "WithdrawnAt",
                filter: "\"WithdrawnAt\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_case_states_LikelyOn",
                table: "case_states",
                column: "LikelyOn",
                filter: "\"LikelyOn\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_case_states_behind",
                table: "case_states",
                column: "LastAt",
                filter: "\"NextRevision\" < \"Revision\"");

            // What is kept of each case says more now: it is worked out anew, beside the requests.
            migrationBuilder.Sql("""update case_states set "NextRevision" = 0""");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_cases_ComebackOf",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_cases_KindId",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_cases_KindName_At",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_cases_Prefix",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_cases_SerialKey",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_cases_WithdrawnAt",
                table: "cases");

            migrationBuilder.DropIndex(
                name: "IX_case_states_LikelyOn",
                table: "case_states");

            migrationBuilder.DropIndex(
                name: "IX_case_states_behind",
                table: "case_states");

            migrationBuilder.DropColumn(
                name: "KindName",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "SerialKey",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Began",
                table: "case_index");

            migrationBuilder.DropColumn(
                name: "Damaged",
                table: "case_index");

            migrationBuilder.DropColumn(
                name: "Figures",
                table: "case_index");

            migrationBuilder.DropColumn(
                name: "Looked",
                table: "case_index");
        }
    }
}
