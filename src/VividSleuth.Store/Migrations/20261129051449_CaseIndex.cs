using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;
using NpgsqlTypes;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CaseIndex : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "ComebackOf",
                table: "cases",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "case_index",
                columns: table => new
                {
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    Revision = table.Column<long>(type: "bigint", nullable: false),
                    Body = table.Column<string>(type: "text", nullable: false),
                    Terms = table.Column<NpgsqlTsVector>(type: "tsvector", nullable: false)
                        .Annotation("Npgsql:TsVectorConfig", "english")
                        .Annotation("Npgsql:TsVectorProperties", new[] { "Body" }),
                    Signs = table.Column<List<string>>(type: "text[]", nullable: false),
                    Parts = table.Column<List<string>>(type: "text[]", nullable: false),
                    Outside = table.Column<List<string>>(type: "text[]", nullable: false),
                    Causes = table.Column<List<string>>(type: "text[]", nullable: false),
                    People = table.Column<List<string>>(type: "text[]", nullable: false),
                    Present = table.Column<List<string>>(type: "text[]", nullable: false),
                    LookedFor = table.Column<List<string>>(type: "text[]", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_case_index", x => x.CaseId);
                    table.ForeignKey(
                        name: "FK_case_index_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "case_words",
                columns: table => new
                {
                    Word = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_case_words", x => x.Word);
                });

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

            migrationBuilder.CreateIndex(
                name: "IX_case_index_Terms",
                table: "case_index",
                column: "Terms")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_case_words_alike",
                table: "case_words",
                column: "Word")
                .Annotation("Npgsql:IndexMethod", "gin")
                .Annotation("Npgsql:IndexOperators", new[] { "gin_trgm_ops" });

            // By what cases are found is worked out anew, as what comes next is after each write.
            migrationBuilder.Sql("""update case_states set "NextRevision" = -1""");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "case_index");

            migrationBuilder.DropTable(
                name: "case_words");

            migrationBuilder.DropColumn(
                name: "ComebackOf",
                table: "cases");
        }
    }
}
