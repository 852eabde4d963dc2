using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Today : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "JudgedBy",
                table: "Coupons",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "TodaysVerdicts",
                columns: table => new
                {
                    ClosingId = table.Column<Guid>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    ProfileVersion = table.Column<int>(type: "INTEGER", nullable: false),
                    Differs = table.Column<bool>(type: "INTEGER", nullable: false),
                    Verdict = table.Column<string>(type: "TEXT", nullable: true),
                    Facts = table.Column<string>(type: "TEXT", nullable: true),
                    Decides = table.Column<bool>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    DeclinedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    DeclinedBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_TodaysVerdicts", x => x.ClosingId);
                    table.ForeignKey(
                        name: "FK_TodaysVerdicts_Closings_ClosingId",
                        column: x => x.ClosingId,
                        principalTable: "Closings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_TodaysVerdicts_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_TodaysVerdicts_CouponId",
                table: "TodaysVerdicts",
                column: "CouponId");

            migrationBuilder.CreateIndex(
                name: "IX_TodaysVerdicts_Differs_At",
                table: "TodaysVerdicts",
                columns: new[] { "Differs", "At" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "TodaysVerdicts");

            migrationBuilder.DropColumn(
                name: "JudgedBy",
                table: "Coupons");
        }
    }
}
