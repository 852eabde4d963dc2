using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Laboratory : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "LabOrders",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    DeviceId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Specimens = table.Column<string>(type: "TEXT", nullable: false),
                    SentAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SentBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    ReceivedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    ReturnedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    Report = table.Column<string>(type: "TEXT", nullable: true),
                    DoneAt = table.Column<long>(type: "INTEGER", nullable: true),
                    DoneBy = table.Column<Guid>(type: "TEXT", nullable: true),
                    IsTaken = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_LabOrders", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_LabOrders_CouponId",
                table: "LabOrders",
                column: "CouponId");

            migrationBuilder.CreateIndex(
                name: "IX_LabOrders_DeviceId_DoneAt_ReturnedAt",
                table: "LabOrders",
                columns: new[] { "DeviceId", "DoneAt", "ReturnedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_LabOrders_DoneAt_ReturnedAt",
                table: "LabOrders",
                columns: new[] { "DoneAt", "ReturnedAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "LabOrders");
        }
    }
}
