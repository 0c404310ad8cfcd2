using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class FollowUps : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "DoneBy",
                table: "debris",
                type: "text",
                nullable: false,
                defaultValue: "Running");

            migrationBuilder.AddColumn<decimal>(
                name: "Hours",
                table: "back_acts",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Instrument",
                table: "back_acts",
                type: "text",
                nullable: false,
                defaultValue: "");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "DoneBy",
                table: "debris");

            migrationBuilder.DropColumn(
                name: "Hours",
                table: "back_acts");

            migrationBuilder.DropColumn(
                name: "Instrument",
                table: "back_acts");
        }
    }
}
