using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Provenance : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "LeftAt",
                table: "Students",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Photos",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Photos",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "SentHash",
                table: "Photos",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Passes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Notes",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Notes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "FitUps",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "FitUps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Findings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Findings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Events",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Events",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "ArrivedAt",
                table: "Coupons",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Coupons",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "HappenedAt",
                table: "Closings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0L);

            migrationBuilder.AddColumn<Guid>(
                name: "SentBy",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            // What was recorded before happened when it arrived. The trigger stays out of it: nothing that readiness reads changes.
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingChanged;");
            foreach (var table in new[] { "FitUps", "Passes", "Findings", "Notes", "Events", "Photos", "Closings" })
            {
                migrationBuilder.Sql($"UPDATE {table} SET HappenedAt = RecordedAt;");
            }

            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingChanged AFTER UPDATE ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.CouponId); END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropColumn(
                name: "LeftAt",
                table: "Students");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "SentHash",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Notes");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Notes");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "FitUps");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "FitUps");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Findings");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Findings");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Events");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Events");

            migrationBuilder.DropColumn(
                name: "ArrivedAt",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "HappenedAt",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "SentBy",
                table: "Closings");
        }
    }
}
