using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Gates : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps");

            migrationBuilder.DropIndex(
                name: "IX_sign_offs_CaseId_Step",
                table: "sign_offs");

            migrationBuilder.AddColumn<string>(
                name: "Per",
                table: "steps",
                type: "text",
                nullable: false,
                defaultValue: "InAll");

            migrationBuilder.AddColumn<string>(
                name: "Stations",
                table: "steps",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.AddColumn<string>(
                name: "Seen",
                table: "sign_offs",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "OpenedBy",
                table: "settings",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'{\"fastenersOut\":\"mechanic\",\"hole\":\"mechanic\",\"empty\":\"mechanic\"}'::jsonb");

            migrationBuilder.AddColumn<bool>(
                name: "OtherEyes",
                table: "settings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Prefix",
                table: "cases",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Variants",
                table: "cases",
                type: "jsonb",
                nullable: false,
                defaultValueSql: "'[]'::jsonb");

            migrationBuilder.CreateTable(
                name: "shop_scripts",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ScriptId = table.Column<string>(type: "text", nullable: false),
                    Script = table.Column<string>(type: "jsonb", nullable: false),
                    Why = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnBy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_shop_scripts", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps",
                columns: new[] { "CaseId", "Step" });

            migrationBuilder.CreateIndex(
                name: "IX_sign_offs_CaseId_Step",
                table: "sign_offs",
                columns: new[] { "CaseId", "Step" });

            migrationBuilder.CreateIndex(
                name: "IX_shop_scripts_ScriptId",
                table: "shop_scripts",
                column: "ScriptId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "shop_scripts");

            migrationBuilder.DropIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps");

            migrationBuilder.DropIndex(
                name: "IX_sign_offs_CaseId_Step",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "Per",
                table: "steps");

            migrationBuilder.DropColumn(
                name: "Stations",
                table: "steps");

            migrationBuilder.DropColumn(
                name: "Seen",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "OpenedBy",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "OtherEyes",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "Prefix",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Variants",
                table: "cases");

            migrationBuilder.CreateIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps",
                columns: new[] { "CaseId", "Step" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_sign_offs_CaseId_Step",
                table: "sign_offs",
                columns: new[] { "CaseId", "Step" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");
        }
    }
}
