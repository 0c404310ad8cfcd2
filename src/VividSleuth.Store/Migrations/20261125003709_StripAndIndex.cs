using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class StripAndIndex : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Counts told before there was a ledger stay readable, and of a step recorded twice the later record stands.
            migrationBuilder.Sql(
                """
                update steps set "Reason" = trim("Reason" || ' ' || "FastenersOut" || ' fasteners counted out.') where "FastenersOut" > 0;
                update steps s set "WithdrawnAt" = now(), "WithdrawnWhy" = 'recorded again later'
                where "WithdrawnAt" is null and exists (
                    select 1 from steps t where t."CaseId" = s."CaseId" and t."Step" = s."Step" and t."WithdrawnAt" is null and (t."At", t."Id") > (s."At", s."Id"));
                """
            );

            migrationBuilder.DropColumn(
                name: "FastenersOut",
                table: "steps");

            migrationBuilder.AddColumn<string>(
                name: "Step",
                table: "photos",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "DueBack",
                table: "parts",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "MarkedAs",
                table: "parts",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "Sent",
                table: "parts",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SideUp",
                table: "parts",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<decimal>(
                name: "Weight",
                table: "parts",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "RodLength",
                table: "cases",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Script",
                table: "cases",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<decimal>(
                name: "Stroke",
                table: "cases",
                type: "numeric",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "fastener_moves",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    Set = table.Column<string>(type: "text", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false),
                    Count = table.Column<int>(type: "integer", nullable: false),
                    Hole = table.Column<int>(type: "integer", nullable: false),
                    Length = table.Column<decimal>(type: "numeric", nullable: true),
                    Keeping = table.Column<string>(type: "text", nullable: false),
                    Where = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_fastener_moves", x => x.Id);
                    table.ForeignKey(
                        name: "FK_fastener_moves_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "label_jobs",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    Places = table.Column<List<string>>(type: "text[]", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false),
                    Printed = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_label_jobs", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "label_printers",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    Left = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_label_printers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "lessons",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Script = table.Column<string>(type: "text", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    EngineName = table.Column<string>(type: "text", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: true),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_lessons", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "own_steps",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Step = table.Column<string>(type: "jsonb", nullable: false),
                    Reason = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_own_steps", x => x.Id);
                    table.ForeignKey(
                        name: "FK_own_steps_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "renumberings",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Before = table.Column<string>(type: "jsonb", nullable: false),
                    After = table.Column<string>(type: "jsonb", nullable: false),
                    Map = table.Column<string>(type: "jsonb", nullable: false),
                    Why = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_renumberings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_renumberings_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "settings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    HoldSigner = table.Column<string>(type: "text", nullable: false),
                    Keeping = table.Column<string>(type: "text", nullable: false),
                    KeepingBySet = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_settings", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "sign_offs",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    Role = table.Column<string>(type: "text", nullable: false),
                    Note = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_sign_offs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_sign_offs_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "step_marks",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Item = table.Column<int>(type: "integer", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_step_marks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_step_marks_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "stock",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    Fits = table.Column<string>(type: "text", nullable: false),
                    Grade = table.Column<string>(type: "text", nullable: false),
                    Count = table.Column<int>(type: "integer", nullable: false),
                    Where = table.Column<string>(type: "text", nullable: false),
                    Remarks = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_stock", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps",
                columns: new[] { "CaseId", "Step" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_fastener_moves_CaseId",
                table: "fastener_moves",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_label_jobs_State_At",
                table: "label_jobs",
                columns: new[] { "State", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_lessons_Script",
                table: "lessons",
                column: "Script");

            migrationBuilder.CreateIndex(
                name: "IX_own_steps_CaseId",
                table: "own_steps",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_renumberings_CaseId",
                table: "renumberings",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_sign_offs_CaseId",
                table: "sign_offs",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_sign_offs_CaseId_Step",
                table: "sign_offs",
                columns: new[] { "CaseId", "Step" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_step_marks_CaseId",
                table: "step_marks",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_stock_Number",
                table: "stock",
                column: "Number",
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "fastener_moves");

            migrationBuilder.DropTable(
                name: "label_jobs");

            migrationBuilder.DropTable(
                name: "label_printers");

            migrationBuilder.DropTable(
                name: "lessons");

            migrationBuilder.DropTable(
                name: "own_steps");

            migrationBuilder.DropTable(
                name: "renumberings");

            migrationBuilder.DropTable(
                name: "settings");

            migrationBuilder.DropTable(
                name: "sign_offs");

            migrationBuilder.DropTable(
                name: "step_marks");

            migrationBuilder.DropTable(
                name: "stock");

            migrationBuilder.DropIndex(
                name: "IX_steps_CaseId_Step",
                table: "steps");

            migrationBuilder.DropColumn(
                name: "Step",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "DueBack",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "MarkedAs",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "Sent",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "SideUp",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "Weight",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "RodLength",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Script",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "Stroke",
                table: "cases");

            migrationBuilder.AddColumn<int>(
                name: "FastenersOut",
                table: "steps",
                type: "integer",
                nullable: false,
                defaultValue: 0);
        }
    }
}
