using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class TypedHalfWidth : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<decimal>(
                name: "Within",
                table: "readings",
                type: "numeric",
                nullable: false,
                defaultValue: 0m);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "Within",
                table: "readings");
        }
    }
}
