using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class NothingForged : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "verdicts",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "verdicts",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "stock",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "steps",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "steps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "step_marks",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "step_marks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "sign_offs",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "sign_offs",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "shop_stories",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "renumberings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "renumberings",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "readings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "readings",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "photos",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "photos",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "photo_marks",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "photo_marks",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "parts",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "parts",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "own_steps",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "own_steps",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "limits",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "limits",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Version",
                table: "lessons",
                type: "integer",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "lessons",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "instruments",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "instruments",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "findings",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "findings",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "fastener_moves",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "fastener_moves",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "debris",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "debris",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "conclusions",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "conclusions",
                type: "text",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "changes",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<bool>(
                name: "Imported",
                table: "cases",
                type: "boolean",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnBy",
                table: "cases",
                type: "text",
                nullable: true);

            // What came from elsewhere before this was kept is at least known by its case.
            migrationBuilder.Sql("""update cases set "Imported" = true where "ImportedFrom" is not null""");

            // The record of changes only grows, whoever asks: the program's account may neither change nor take away a line of it.
            migrationBuilder.Sql(
                """
                create function changes_only_grow() returns trigger language plpgsql as $$
                begin raise exception 'A line of the record of changes is never changed or taken away.' using errcode = '42501'; end $$;
                create trigger changes_only_grow before update or delete or truncate on changes
                    for each statement execute function changes_only_grow();
                """);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("drop trigger changes_only_grow on changes; drop function changes_only_grow()");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "verdicts");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "verdicts");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "stock");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "steps");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "steps");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "step_marks");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "step_marks");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "sign_offs");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "shop_stories");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "renumberings");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "renumberings");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "readings");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "photos");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "photo_marks");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "photo_marks");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "parts");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "own_steps");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "own_steps");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "limits");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "limits");

            migrationBuilder.DropColumn(
                name: "Version",
                table: "lessons");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "lessons");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "instruments");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "findings");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "fastener_moves");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "fastener_moves");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "debris");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "debris");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "conclusions");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "changes");

            migrationBuilder.DropColumn(
                name: "Imported",
                table: "cases");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "cases");
        }
    }
}
