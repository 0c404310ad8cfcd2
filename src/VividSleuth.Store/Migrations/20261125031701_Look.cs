using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Look : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Shot",
                table: "photos",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Sha256",
                table: "photo_contents",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<List<Guid>>(
                name: "Marks",
                table: "findings",
                type: "uuid[]",
                nullable: false,
                defaultValue: new List<Guid>());

            migrationBuilder.AddColumn<List<string>>(
                name: "Zones",
                table: "findings",
                type: "text[]",
                nullable: false,
                defaultValue: new List<string>());

            migrationBuilder.CreateTable(
                name: "debris",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Place = table.Column<string>(type: "text", nullable: false),
                    Material = table.Column<string>(type: "text", nullable: false),
                    Hard = table.Column<bool>(type: "boolean", nullable: true),
                    Colour = table.Column<string>(type: "text", nullable: false),
                    Form = table.Column<string>(type: "text", nullable: false),
                    Count = table.Column<int>(type: "integer", nullable: true),
                    Size = table.Column<decimal>(type: "numeric", nullable: true),
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
                    table.PrimaryKey("PK_debris", x => x.Id);
                    table.ForeignKey(
                        name: "FK_debris_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "photo_marks",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Photo = table.Column<Guid>(type: "uuid", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false),
                    X1 = table.Column<double>(type: "double precision", nullable: false),
                    Y1 = table.Column<double>(type: "double precision", nullable: false),
                    X2 = table.Column<double>(type: "double precision", nullable: false),
                    Y2 = table.Column<double>(type: "double precision", nullable: false),
                    Length = table.Column<decimal>(type: "numeric", nullable: true),
                    Label = table.Column<string>(type: "text", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true),
                    WithdrawnWhy = table.Column<string>(type: "text", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_photo_marks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_photo_marks_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_photo_marks_photos_Photo",
                        column: x => x.Photo,
                        principalTable: "photos",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "photo_originals",
                columns: table => new
                {
                    Sha256 = table.Column<string>(type: "text", nullable: false),
                    Data = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_photo_originals", x => x.Sha256);
                });

            // Originals move to their own table, each kept once.
            migrationBuilder.Sql(
                """
                insert into photo_originals ("Sha256", "Data")
                  select distinct on (sha256("Original")) encode(sha256("Original"), 'hex'), "Original" from photo_contents;
                update photo_contents set "Sha256" = encode(sha256("Original"), 'hex');
                """);

            migrationBuilder.DropColumn(
                name: "Original",
                table: "photo_contents");

            migrationBuilder.CreateIndex(
                name: "IX_photo_contents_Sha256",
                table: "photo_contents",
                column: "Sha256");

            migrationBuilder.CreateIndex(
                name: "IX_debris_CaseId",
                table: "debris",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_photo_marks_CaseId",
                table: "photo_marks",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_photo_marks_Photo",
                table: "photo_marks",
                column: "Photo");

            migrationBuilder.AddForeignKey(
                name: "FK_photo_contents_photo_originals_Sha256",
                table: "photo_contents",
                column: "Sha256",
                principalTable: "photo_originals",
                principalColumn: "Sha256",
                onDelete: ReferentialAction.Restrict);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<byte[]>(
                name: "Original",
                table: "photo_contents",
                type: "bytea",
                nullable: false,
                defaultValue: new byte[0]);

            migrationBuilder.Sql(
                """
                update photo_contents c set "Original" = o."Data" from photo_originals o where o."Sha256" = c."Sha256";
                """);

            migrationBuilder.DropForeignKey(
                name: "FK_photo_contents_photo_originals_Sha256",
                table: "photo_contents");

            migrationBuilder.DropTable(
                name: "debris");

            migrationBuilder.DropTable(
                name: "photo_marks");

            migrationBuilder.DropTable(
                name: "photo_originals");

            migrationBuilder.DropIndex(
                name: "IX_photo_contents_Sha256",
                table: "photo_contents");

            migrationBuilder.DropColumn(
                name: "Shot",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "Sha256",
                table: "photo_contents");

            migrationBuilder.DropColumn(
                name: "Marks",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "Zones",
                table: "findings");
        }
    }
}
