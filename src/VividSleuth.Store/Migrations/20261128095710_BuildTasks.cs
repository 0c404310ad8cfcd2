using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class BuildTasks : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Work",
                table: "settings",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'::jsonb");

            migrationBuilder.CreateTable(
                name: "build_promises",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Day = table.Column<DateOnly>(type: "date", nullable: false),
                    To = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true),
                    Imported = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_build_promises", x => x.Id);
                    table.ForeignKey(
                        name: "FK_build_promises_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "build_tasks",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Of = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false),
                    Least = table.Column<decimal>(type: "numeric", nullable: true),
                    Likely = table.Column<decimal>(type: "numeric", nullable: true),
                    Most = table.Column<decimal>(type: "numeric", nullable: true),
                    Hands = table.Column<int>(type: "integer", nullable: true),
                    Tools = table.Column<string>(type: "jsonb", nullable: false),
                    After = table.Column<string>(type: "jsonb", nullable: false),
                    Holds = table.Column<string>(type: "jsonb", nullable: false),
                    NotBefore = table.Column<DateOnly>(type: "date", nullable: true),
                    Expected = table.Column<DateOnly>(type: "date", nullable: true),
                    ByItself = table.Column<bool>(type: "boolean", nullable: false),
                    Dry = table.Column<bool>(type: "boolean", nullable: false),
                    WarmerThan = table.Column<decimal>(type: "numeric", nullable: true),
                    Mark = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true),
                    Imported = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_build_tasks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_build_tasks_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_build_promises_CaseId",
                table: "build_promises",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_build_tasks_CaseId",
                table: "build_tasks",
                column: "CaseId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "build_promises");

            migrationBuilder.DropTable(
                name: "build_tasks");

            migrationBuilder.DropColumn(
                name: "Work",
                table: "settings");
        }
    }
}
