using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace VividSleuth.Store.Migrations
{
    /// <inheritdoc />
    public partial class CasesWith : Migration
    {
        // Asked for as a table only where many have the words. By the index of terms always: to read and unpack the terms of every case costs ten times as much, which the planner does not know.
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder) =>
            migrationBuilder.Sql(
                """
                create function cases_with(query text) returns setof uuid language sql stable parallel safe rows 5000 set enable_seqscan = off as
                $$ select "CaseId" from case_index where "Terms" @@ to_tsquery('english', query) $$;
                """
            );

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) => migrationBuilder.Sql("drop function cases_with(text);");
    }
}
