using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class AsItHappened : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Passes_CouponId_BeadKey",
                table: "Passes");

            migrationBuilder.DropIndex(
                name: "IX_Closings_CouponId",
                table: "Closings");

            migrationBuilder.AddColumn<string>(
                name: "Despite",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Measured",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Part",
                table: "Passes",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<string>(
                name: "Side",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "StartedAs",
                table: "Coupons",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Because",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "EndedBy",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "EventId",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_Passes_CouponId_BeadKey",
                table: "Passes",
                columns: new[] { "CouponId", "BeadKey" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL AND \"Part\" = 0");

            migrationBuilder.CreateIndex(
                name: "IX_Closings_CouponId",
                table: "Closings",
                column: "CouponId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL AND \"EndedBy\" IS NULL");

            // Whose coupon it was, and whose it is now, are both worked out again.
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponCorrected AFTER UPDATE OF StudentId, TestId, DrillId, AsTest ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) IN (VALUES (OLD.StudentId, OLD.TestId), (NEW.StudentId, NEW.TestId)); END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponCorrected;");

            migrationBuilder.DropIndex(
                name: "IX_Passes_CouponId_BeadKey",
                table: "Passes");

            migrationBuilder.DropIndex(
                name: "IX_Closings_CouponId",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "Despite",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "Measured",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "Part",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "Side",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "StartedAs",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "Because",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "EndedBy",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "EventId",
                table: "Closings");

            migrationBuilder.CreateIndex(
                name: "IX_Passes_CouponId_BeadKey",
                table: "Passes",
                columns: new[] { "CouponId", "BeadKey" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Closings_CouponId",
                table: "Closings",
                column: "CouponId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");
        }
    }
}
