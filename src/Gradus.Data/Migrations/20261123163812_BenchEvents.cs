using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class BenchEvents : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<double>(
                name: "BelowFlushMm",
                table: "Passes",
                type: "REAL",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "InterpassC",
                table: "Passes",
                type: "REAL",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "StartAt",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "StopAt",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "VoidedAt",
                table: "Coupons",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Downgraded",
                table: "Closings",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.CreateTable(
                name: "Events",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Events", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Events_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Events_CouponId_RecordedAt",
                table: "Events",
                columns: new[] { "CouponId", "RecordedAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Events");

            migrationBuilder.DropColumn(
                name: "BelowFlushMm",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "InterpassC",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "StartAt",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "StopAt",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "VoidedAt",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "Downgraded",
                table: "Closings");
        }
    }
}
