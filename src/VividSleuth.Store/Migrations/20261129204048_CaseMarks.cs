using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CaseMarks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_case_index_Causes",
                table: "case_index");

            migrationBuilder.DropIndex(
                name: "IX_case_index_Outside",
                table: "case_index");

            migrationBuilder.DropIndex(
                name: "IX_case_index_Parts",
                table: "case_index");

            migrationBuilder.DropIndex(
                name: "IX_case_index_People",
                table: "case_index");

            migrationBuilder.DropIndex(
                name: "IX_case_index_Present",
                table: "case_index");

            migrationBuilder.DropIndex(
                name: "IX_case_index_Signs",
                table: "case_index");

            migrationBuilder.CreateTable(
                name: "case_marks",
                columns: table => new
                {
                    Mark = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_case_marks", x => new { x.Mark, x.CaseId });
                    table.ForeignKey(
                        name: "FK_case_marks_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_case_marks_CaseId",
                table: "case_marks",
                column: "CaseId");
            migrationBuilder.Sql(
                """
                insert into case_marks ("Mark", "CaseId")
                select 'sign:' || s, "CaseId" from case_index, unnest("Signs") s
                union select 'part:' || s, "CaseId" from case_index, unnest("Parts") s
                union select 'outside:' || s, "CaseId" from case_index, unnest("Outside") s
                union select 'cause:' || s, "CaseId" from case_index, unnest("Causes") s
                union select 'person:' || s, "CaseId" from case_index, unnest("People") s
                union select 'shows:' || split_part(s, '#', 1), "CaseId" from case_index, unnest("Present") s where cardinality("Causes") > 0
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "case_marks");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Causes",
                table: "case_index",
                column: "Causes")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Outside",
                table: "case_index",
                column: "Outside")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Parts",
                table: "case_index",
                column: "Parts")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_People",
                table: "case_index",
                column: "People")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Present",
                table: "case_index",
                column: "Present")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Signs",
                table: "case_index",
                column: "Signs")
                .Annotation("Npgsql:IndexMethod", "gin");
        }
    }
}
