using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class Gauge : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "GaugeAddress",
                table: "settings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Schools",
                table: "settings",
                type: "jsonb",
                nullable: false,
                defaultValue: "{}");

            migrationBuilder.AddColumn<string>(
                name: "Direction",
                table: "readings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<decimal>(
                name: "GaugeTemperature",
                table: "readings",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Phase",
                table: "readings",
                type: "text",
                nullable: false,
                defaultValue: "AsFound");

            migrationBuilder.AddColumn<string>(
                name: "ReadBy",
                table: "readings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Station",
                table: "readings",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "On",
                table: "limits",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Unit",
                table: "limits",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<decimal>(
                name: "Wear",
                table: "limits",
                type: "numeric",
                nullable: true);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "At",
                table: "instruments",
                type: "timestamp with time zone",
                nullable: false,
                defaultValue: new DateTimeOffset(new DateTime(1, 1, 1, 0, 0, 0, 0, DateTimeKind.Unspecified), new TimeSpan(0, 0, 0, 0, 0)));

            migrationBuilder.AddColumn<string>(
                name: "By",
                table: "instruments",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<DateOnly>(
                name: "Calibrated",
                table: "instruments",
                type: "date",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Kind",
                table: "instruments",
                type: "text",
                nullable: false,
                defaultValue: "Other");

            migrationBuilder.AddColumn<string>(
                name: "Method",
                table: "instruments",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<string>(
                name: "Quantity",
                table: "instruments",
                type: "text",
                nullable: false,
                defaultValue: "Length");

            migrationBuilder.AddColumn<string>(
                name: "SetWith",
                table: "instruments",
                type: "text",
                nullable: false,
                defaultValue: "");

            migrationBuilder.AddColumn<int>(
                name: "Version",
                table: "instruments",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<DateTimeOffset>(
                name: "WithdrawnAt",
                table: "instruments",
                type: "timestamp with time zone",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "GaugeAddress",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "Schools",
                table: "settings");

            migrationBuilder.DropColumn(
                name: "Direction",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "GaugeTemperature",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "Phase",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "ReadBy",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "Station",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "On",
                table: "limits");

            migrationBuilder.DropColumn(
                name: "Unit",
                table: "limits");

            migrationBuilder.DropColumn(
                name: "Wear",
                table: "limits");

            migrationBuilder.DropColumn(
                name: "At",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "By",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Calibrated",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Kind",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Method",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Quantity",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "SetWith",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Version",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "WithdrawnAt",
                table: "instruments");
        }
    }
}
