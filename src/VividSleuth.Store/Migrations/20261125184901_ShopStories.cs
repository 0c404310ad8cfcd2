using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class ShopStories : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "Computed",
                table: "conclusions",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "ComputedForThis",
                table: "conclusions",
                type: "double precision",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ComputedPlace",
                table: "conclusions",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "ComputedStory",
                table: "conclusions",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Fault",
                table: "conclusions",
                type: "text",
                nullable: false,
                defaultValue: "NotKnown");

            migrationBuilder.CreateTable(
                name: "shop_stories",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    StoryId = table.Column<string>(type: "text", nullable: false),
                    Story = table.Column<string>(type: "jsonb", nullable: false),
                    Why = table.Column<string>(type: "text", nullable: false),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false),
                    WithdrawnAt = table.Column<DateTimeOffset>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_shop_stories", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_shop_stories_StoryId",
                table: "shop_stories",
                column: "StoryId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "shop_stories");

            migrationBuilder.DropColumn(
                name: "Computed",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "ComputedForThis",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "ComputedPlace",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "ComputedStory",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "Fault",
                table: "conclusions");
        }
    }
}
