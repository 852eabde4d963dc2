using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class OneStudent : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // What was kept of each test alone is worked out anew, for the student as one; in place, so that the triggers on other tables hold.
            migrationBuilder.Sql("UPDATE Readiness SET Stale = 1;");
            migrationBuilder.Sql("ALTER TABLE Readiness DROP COLUMN State;");

            migrationBuilder.CreateTable(
                name: "Skills",
                columns: table => new
                {
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Version = table.Column<string>(type: "TEXT", nullable: false),
                    Coupons = table.Column<int>(type: "INTEGER", nullable: false),
                    Digest = table.Column<string>(type: "TEXT", nullable: false),
                    LastDay = table.Column<double>(type: "REAL", nullable: false),
                    State = table.Column<byte[]>(type: "BLOB", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Skills", x => x.StudentId);
                    table.ForeignKey(
                        name: "FK_Skills_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            // A coupon tells of every test of its student.
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingChanged;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponVoided;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponCorrected;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingMade AFTER INSERT ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = (SELECT StudentId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingChanged AFTER UPDATE ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = (SELECT StudentId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponVoided AFTER UPDATE OF VoidedAt, ClosedAt ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = NEW.StudentId; END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponCorrected AFTER UPDATE OF StudentId, TestId, DrillId, AsTest ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId IN (OLD.StudentId, NEW.StudentId); END;");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingChanged;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponVoided;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessCouponCorrected;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingMade AFTER INSERT ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingChanged AFTER UPDATE ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponVoided AFTER UPDATE OF VoidedAt, ClosedAt ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) = (SELECT StudentId, TestId FROM Coupons WHERE Id = NEW.Id); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessCouponCorrected AFTER UPDATE OF StudentId, TestId, DrillId, AsTest ON Coupons BEGIN UPDATE Readiness SET Stale = 1 WHERE (StudentId, TestId) IN (VALUES (OLD.StudentId, OLD.TestId), (NEW.StudentId, NEW.TestId)); END;");

            migrationBuilder.DropTable(
                name: "Skills");

            migrationBuilder.AddColumn<byte[]>(
                name: "State",
                table: "Readiness",
                type: "BLOB",
                nullable: false,
                defaultValue: new byte[0]);
        }
    }
}
