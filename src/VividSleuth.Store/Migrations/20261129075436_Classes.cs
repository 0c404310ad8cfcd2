using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Classes : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Outcome",
                table: "sign_offs",
                type: "text",
                nullable: false,
                defaultValue: "Signed");

            migrationBuilder.AddColumn<Guid>(
                name: "ClassId",
                table: "gauge_studies",
                type: "uuid",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "classes",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Mark = table.Column<string>(type: "text", nullable: false),
                    Teachers = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    SecondLooks = table.Column<List<string>>(type: "text[]", nullable: false),
                    StuckAfter = table.Column<int>(type: "integer", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_classes", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "benches",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ClassId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    People = table.Column<List<Guid>>(type: "uuid[]", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_benches", x => x.Id);
                    table.ForeignKey(
                        name: "FK_benches_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_benches_classes_ClassId",
                        column: x => x.ClassId,
                        principalTable: "classes",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "homework",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ClassId = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Seed = table.Column<int>(type: "integer", nullable: false),
                    Until = table.Column<DateOnly>(type: "date", nullable: true),
                    ToldAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_homework", x => x.Id);
                    table.ForeignKey(
                        name: "FK_homework_classes_ClassId",
                        column: x => x.ClassId,
                        principalTable: "classes",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "homework_tries",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    HomeworkId = table.Column<Guid>(type: "uuid", nullable: false),
                    Person = table.Column<Guid>(type: "uuid", nullable: false),
                    Looks = table.Column<string>(type: "jsonb", nullable: false),
                    Guesses = table.Column<string>(type: "jsonb", nullable: false),
                    InAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    Right = table.Column<bool>(type: "boolean", nullable: false),
                    LogScore = table.Column<double>(type: "double precision", nullable: false),
                    Minutes = table.Column<double>(type: "double precision", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_homework_tries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_homework_tries_homework_HomeworkId",
                        column: x => x.HomeworkId,
                        principalTable: "homework",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_benches_CaseId",
                table: "benches",
                column: "CaseId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_benches_ClassId_Number",
                table: "benches",
                columns: new[] { "ClassId", "Number" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_benches_People",
                table: "benches",
                column: "People")
                .Annotation("Npgsql:IndexMethod", "gin");

            migrationBuilder.CreateIndex(
                name: "IX_homework_ClassId",
                table: "homework",
                column: "ClassId");

            migrationBuilder.CreateIndex(
                name: "IX_homework_tries_HomeworkId_Person",
                table: "homework_tries",
                columns: new[] { "HomeworkId", "Person" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "benches");

            migrationBuilder.DropTable(
                name: "homework_tries");

            migrationBuilder.DropTable(
                name: "homework");

            migrationBuilder.DropTable(
                name: "classes");

            migrationBuilder.DropColumn(
                name: "Outcome",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "ClassId",
                table: "gauge_studies");
        }
    }
}
