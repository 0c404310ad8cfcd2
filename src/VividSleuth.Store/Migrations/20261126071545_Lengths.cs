using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Lengths : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Lengths",
                table: "settings",
                type: "text",
                nullable: false,
                defaultValue: "Mm");

            migrationBuilder.AddColumn<string>(
                name: "Lengths",
                table: "cases",
                type: "text",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Lengths",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "Lengths",
                table: "cases");
        }
    }
}
