using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CaseStates : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "case_states",
                columns: table => new
                {
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    Revision = table.Column<long>(type: "bigint", nullable: false),
                    Numbering = table.Column<int>(type: "integer", nullable: false),
                    LastAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    LastBy = table.Column<string>(type: "text", nullable: false),
                    Findings = table.Column<int>(type: "integer", nullable: false),
                    Readings = table.Column<int>(type: "integer", nullable: false),
                    Steps = table.Column<int>(type: "integer", nullable: false),
                    Conclusions = table.Column<int>(type: "integer", nullable: false),
                    Next = table.Column<string>(type: "text", nullable: false),
                    NextRevision = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_case_states", x => x.CaseId);
                    table.ForeignKey(
                        name: "FK_case_states_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "shop_state",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    Revision = table.Column<long>(type: "bigint", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_shop_state", x => x.Id);
                });

            migrationBuilder.InsertData(
                table: "shop_state",
                columns: new[] { "Id", "Revision" },
                values: new object[] { 1, 0L });

            migrationBuilder.CreateIndex(
                name: "IX_case_states_LastAt_CaseId",
                table: "case_states",
                columns: new[] { "LastAt", "CaseId" });

            // Cases of before: what stands on them is counted once; the first revision is 1.
            migrationBuilder.Sql(
                """
                insert into case_states
                select c."Id", 1,
                    (select count(*) from renumberings r where r."CaseId" = c."Id"),
                    coalesce(l."At", c."At"), coalesce(l."By", c."By"),
                    (select count(*) from findings r where r."CaseId" = c."Id" and r."WithdrawnAt" is null),
                    (select count(*) from readings r where r."CaseId" = c."Id" and r."WithdrawnAt" is null),
                    (select count(*) from steps r where r."CaseId" = c."Id" and r."WithdrawnAt" is null),
                    (select count(*) from conclusions r where r."CaseId" = c."Id" and r."WithdrawnAt" is null),
                    '', 0
                from cases c
                left join lateral (
                    select x."At", x."By" from changes x where x."CaseId" = c."Id" order by x."At" desc limit 1
                ) l on true
                """
            );
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "case_states");

            migrationBuilder.DropTable(
                name: "shop_state");
        }
    }
}
