using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Elsewhere : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<DateOnly>(
                name: "Day",
                table: "StepCredits",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Vouched",
                table: "StepCredits",
                type: "TEXT",
                nullable: true);

            // What was passed elsewhere is evidence: all of the student is weighed anew.
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCreditMade AFTER INSERT ON StepCredits BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = NEW.StudentId; END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCreditChanged AFTER UPDATE ON StepCredits BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId IN (OLD.StudentId, NEW.StudentId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCreditTakenBack AFTER DELETE ON StepCredits BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = OLD.StudentId; END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER ReadinessCreditMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCreditChanged;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCreditTakenBack;");

            migrationBuilder.DropColumn(
                name: "Day",
                table: "StepCredits");

            migrationBuilder.DropColumn(
                name: "Vouched",
                table: "StepCredits");
        }
    }
}
