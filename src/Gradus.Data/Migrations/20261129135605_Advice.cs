using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Advice : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Sittings are evidence now, and what is kept tells more: all is worked out anew, from the coupons on.
            migrationBuilder.Sql("UPDATE Readiness SET Stale = 1, StandingDay = 0;");
            migrationBuilder.Sql("DELETE FROM Skills;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessSittingMade AFTER INSERT ON SittingResults BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = NEW.StudentId; END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessSittingChanged AFTER UPDATE ON SittingResults BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId IN (OLD.StudentId, NEW.StudentId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessSittingTakenBack AFTER DELETE ON SittingResults BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = OLD.StudentId; END;");

            migrationBuilder.AddColumn<string>(
                name: "LastSitting",
                table: "Readiness",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "WithdrawnAt",
                table: "Decisions",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "WithdrawnBy",
                table: "Decisions",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "WithdrawnReason",
                table: "Decisions",
                type: "TEXT",
                nullable: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER ReadinessSittingMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessSittingChanged;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessSittingTakenBack;");

            migrationBuilder.DropColumn(
                name: "LastSitting",
                table: "Readiness");

            migrationBuilder.DropColumn(
                name: "WithdrawnAt",
                table: "Decisions");

            migrationBuilder.DropColumn(
                name: "WithdrawnBy",
                table: "Decisions");

            migrationBuilder.DropColumn(
                name: "WithdrawnReason",
                table: "Decisions");
        }
    }
}
