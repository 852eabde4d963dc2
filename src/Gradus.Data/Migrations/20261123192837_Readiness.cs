using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Readiness : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "SafetySignedAt",
                table: "Students",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "SafetySignedBy",
                table: "Students",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Advice",
                table: "Decisions",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Facts",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Policies",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Policy = table.Column<string>(type: "TEXT", nullable: false),
                    SavedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SavedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Policies", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Readiness",
                columns: table => new
                {
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Stale = table.Column<bool>(type: "INTEGER", nullable: false),
                    ConstantsVersion = table.Column<string>(type: "TEXT", nullable: false),
                    Coupons = table.Column<int>(type: "INTEGER", nullable: false),
                    CleanCoupons = table.Column<int>(type: "INTEGER", nullable: false),
                    LastDay = table.Column<double>(type: "REAL", nullable: false),
                    StandingDay = table.Column<int>(type: "INTEGER", nullable: false),
                    Standing = table.Column<string>(type: "TEXT", nullable: false),
                    Recent = table.Column<string>(type: "TEXT", nullable: false),
                    Trace = table.Column<string>(type: "TEXT", nullable: false),
                    State = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Readiness", x => new { x.StudentId, x.TestId });
                    table.ForeignKey(
                        name: "FK_Readiness_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Policies_TestId_SavedAt",
                table: "Policies",
                columns: new[] { "TestId", "SavedAt" });

            // Whatever touches the closings of a coupon, or voids it, makes the kept readiness of its student and test stale: in the same write.
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingMade AFTER INSERT ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingChanged AFTER UPDATE ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponVoided AFTER UPDATE OF VoidedAt, ClosedAt ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.Id); END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingChanged;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponVoided;");

            migrationBuilder.DropTable(
                name: "Policies");

            migrationBuilder.DropTable(
                name: "Readiness");

            migrationBuilder.DropColumn(
                name: "SafetySignedAt",
                table: "Students");

            migrationBuilder.DropColumn(
                name: "SafetySignedBy",
                table: "Students");

            migrationBuilder.DropColumn(
                name: "Advice",
                table: "Decisions");

            migrationBuilder.DropColumn(
                name: "Facts",
                table: "Closings");
        }
    }
}
