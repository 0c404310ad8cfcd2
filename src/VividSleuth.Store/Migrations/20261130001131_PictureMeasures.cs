using System;
using System.Collections.Generic;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class PictureMeasures : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<Guid>(
                name: "Picture",
                table: "readings",
                type: "uuid",
                nullable: true);

            migrationBuilder.AddColumn<decimal>(
                name: "Standard",
                table: "readings",
                type: "numeric",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "picture_measures",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Photo = table.Column<Guid>(type: "uuid", nullable: false),
                    Task = table.Column<string>(type: "text", nullable: false),
                    Points = table.Column<List<double>>(type: "double precision[]", nullable: false),
                    Scale = table.Column<List<double>>(type: "double precision[]", nullable: false),
                    ScaleLength = table.Column<decimal>(type: "numeric", nullable: true),
                    Card = table.Column<int>(type: "integer", nullable: true),
                    Above = table.Column<decimal>(type: "numeric", nullable: false),
                    Value = table.Column<decimal>(type: "numeric", nullable: false),
                    Standard = table.Column<decimal>(type: "numeric", nullable: false),
                    Residual = table.Column<double>(type: "double precision", nullable: true),
                    Tilt = table.Column<double>(type: "double precision", nullable: true),
                    Classes = table.Column<List<int>>(type: "integer[]", nullable: false),
                    Longest = table.Column<decimal>(type: "numeric", nullable: true),
                    Shiny = table.Column<int>(type: "integer", nullable: true),
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
                    table.PrimaryKey("PK_picture_measures", x => x.Id);
                    table.ForeignKey(
                        name: "FK_picture_measures_cases_CaseId",
                        column: x => x.CaseId,
                        principalTable: "cases",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_picture_measures_photos_Photo",
                        column: x => x.Photo,
                        principalTable: "photos",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_picture_measures_CaseId",
                table: "picture_measures",
                column: "CaseId");

            migrationBuilder.CreateIndex(
                name: "IX_picture_measures_Photo",
                table: "picture_measures",
                column: "Photo");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "picture_measures");

            migrationBuilder.DropColumn(
                name: "Picture",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "Standard",
                table: "readings");
        }
    }
}
