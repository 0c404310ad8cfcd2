using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class PhotoPieces : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "photo_pieces",
                columns: table => new
                {
                    PhotoId = table.Column<Guid>(type: "uuid", nullable: false),
                    Offset = table.Column<int>(type: "integer", nullable: false),
                    CaseId = table.Column<Guid>(type: "uuid", nullable: false),
                    Data = table.Column<byte[]>(type: "bytea", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_photo_pieces", x => new { x.PhotoId, x.Offset });
                    table.ForeignKey(
                        name: "FK_photo_pieces_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_photo_pieces_At",
                table: "photo_pieces",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_photo_pieces_CaseId",
                table: "photo_pieces",
                column: "CaseId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "photo_pieces");
        }
    }
}
