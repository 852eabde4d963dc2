using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Instruments : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "KeepTracesDays",
                table: "Schools",
                type: "INTEGER",
                nullable: false,
                defaultValue: 120);

            migrationBuilder.CreateTable(
                name: "ArcBatches",
                columns: table => new
                {
                    DeviceId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Sequence = table.Column<long>(type: "INTEGER", nullable: false),
                    DeviceAt = table.Column<long>(type: "INTEGER", nullable: false),
                    AheadMs = table.Column<long>(type: "INTEGER", nullable: false),
                    ArrivedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Hz = table.Column<int>(type: "INTEGER", nullable: false),
                    Samples = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ArcBatches", x => new { x.DeviceId, x.Sequence });
                });

            migrationBuilder.CreateTable(
                name: "Devices",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    BoothId = table.Column<Guid>(type: "TEXT", nullable: true),
                    KeyHash = table.Column<string>(type: "TEXT", nullable: false),
                    LeadVolts = table.Column<double>(type: "REAL", nullable: false),
                    PairedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    PairedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    RemovedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    PackedThrough = table.Column<long>(type: "INTEGER", nullable: false),
                    PackedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Lost = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Devices", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Traces",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    DeviceId = table.Column<Guid>(type: "TEXT", nullable: false),
                    BoothId = table.Column<Guid>(type: "TEXT", nullable: false),
                    StartsAt = table.Column<long>(type: "INTEGER", nullable: false),
                    FromAt = table.Column<long>(type: "INTEGER", nullable: false),
                    ArcEndedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    Hz = table.Column<int>(type: "INTEGER", nullable: false),
                    ArcSeconds = table.Column<double>(type: "REAL", nullable: false),
                    LeadVolts = table.Column<double>(type: "REAL", nullable: false),
                    PassId = table.Column<Guid>(type: "TEXT", nullable: true),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: true),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: true),
                    SaidBy = table.Column<Guid>(type: "TEXT", nullable: true),
                    Reading = table.Column<string>(type: "TEXT", nullable: true),
                    RawGoneAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Traces", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Devices_KeyHash",
                table: "Devices",
                column: "KeyHash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Traces_ArcEndedAt",
                table: "Traces",
                column: "ArcEndedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Traces_BoothId_ArcEndedAt",
                table: "Traces",
                columns: new[] { "BoothId", "ArcEndedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Traces_CouponId",
                table: "Traces",
                column: "CouponId");

            migrationBuilder.CreateIndex(
                name: "IX_Traces_RawGoneAt_ArcEndedAt",
                table: "Traces",
                columns: new[] { "RawGoneAt", "ArcEndedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Traces_StudentId_ArcEndedAt",
                table: "Traces",
                columns: new[] { "StudentId", "ArcEndedAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ArcBatches");

            migrationBuilder.DropTable(
                name: "Devices");

            migrationBuilder.DropTable(
                name: "Traces");

            migrationBuilder.DropColumn(
                name: "KeepTracesDays",
                table: "Schools");
        }
    }
}
