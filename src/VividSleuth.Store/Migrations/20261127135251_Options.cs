using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Options : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Currency",
                table: "settings",
                type: "text",
                nullable: false,
                defaultValue: "EUR");

            migrationBuilder.AddColumn<decimal>(
                name: "HourRate",
                table: "settings",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);

            migrationBuilder.AddColumn<string>(
                name: "Rates",
                table: "settings",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{}'::jsonb");

            migrationBuilder.CreateTable(
                name: "option_choices",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Option = table.Column<Guid>(type: "uuid", nullable: false),
                    Title = table.Column<string>(type: "text", nullable: false),
                    Scope = table.Column<string>(type: "text", nullable: false),
                    Why = table.Column<string>(type: "text", nullable: false),
                    Cost = table.Column<decimal>(type: "numeric", nullable: false),
                    Chance = table.Column<double>(type: "double precision", nullable: false),
                    Expected = table.Column<decimal>(type: "numeric", nullable: false),
                    Currency = table.Column<string>(type: "text", nullable: false),
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
                    table.PrimaryKey("PK_option_choices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_option_choices_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "options",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Title = table.Column<string>(type: "text", nullable: false),
                    Scope = table.Column<string>(type: "text", nullable: false),
                    Lines = table.Column<string>(type: "jsonb", nullable: false),
                    Base = table.Column<string>(type: "text", nullable: false),
                    Rates = table.Column<string>(type: "jsonb", nullable: false),
                    Risks = table.Column<string>(type: "jsonb", nullable: false),
                    Removes = table.Column<string>(type: "jsonb", nullable: false),
                    Failing = table.Column<string>(type: "jsonb", nullable: false),
                    FarOut = table.Column<decimal>(type: "numeric", nullable: false),
                    Warranty = table.Column<string>(type: "text", nullable: false),
                    WarrantyMonths = table.Column<int>(type: "integer", nullable: false),
                    OwnChance = table.Column<decimal>(type: "numeric", nullable: true),
                    Remarks = table.Column<string>(type: "text", nullable: false),
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
                    table.PrimaryKey("PK_options", x => x.Id);
                    table.ForeignKey(
                        name: "FK_options_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_option_choices_CaseId",
                table: "option_choices",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_options_CaseId",
                table: "options",
                column: "CaseId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "option_choices");

            migrationBuilder.DropTable(
                name: "options");

            migrationBuilder.DropColumn(
                name: "Currency",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "HourRate",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "Rates",
                table: "settings");
        }
    }
}
