using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Planning : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<long>(
                name: "ClosedAt",
                table: "Booths",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "ClosedWhy",
                table: "Booths",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Column",
                table: "Booths",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<int>(
                name: "Has",
                table: "Booths",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.AddColumn<string>(
                name: "Processes",
                table: "Booths",
                type: "TEXT",
                nullable: false,
                defaultValueSql: "'[\"SMAW\",\"GTAW\",\"GMAW\",\"FCAW-G\",\"FCAW-S\"]'");

            migrationBuilder.AddColumn<int>(
                name: "Row",
                table: "Booths",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "Absences",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Period = table.Column<int>(type: "INTEGER", nullable: true),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Absences", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Absences_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "PlanSetups",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Week = table.Column<string>(type: "TEXT", nullable: true),
                    Steps = table.Column<string>(type: "TEXT", nullable: true),
                    Prices = table.Column<string>(type: "TEXT", nullable: true),
                    Saw = table.Column<string>(type: "TEXT", nullable: true),
                    FeedKey = table.Column<string>(type: "TEXT", nullable: false),
                    SavedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SavedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PlanSetups", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Sittings",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Period = table.Column<int>(type: "INTEGER", nullable: false),
                    BookedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sittings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Sittings_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "StepCredits",
                columns: table => new
                {
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StepCredits", x => new { x.StudentId, x.TestId });
                    table.ForeignKey(
                        name: "FK_StepCredits_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "StockMoves",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Stock = table.Column<string>(type: "TEXT", nullable: false),
                    Unit = table.Column<string>(type: "TEXT", nullable: false),
                    LengthMm = table.Column<double>(type: "REAL", nullable: true),
                    OffCut = table.Column<bool>(type: "INTEGER", nullable: false),
                    Amount = table.Column<double>(type: "REAL", nullable: false),
                    Why = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StockMoves", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "StudentGoals",
                columns: table => new
                {
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Tests = table.Column<string>(type: "TEXT", nullable: false),
                    Job = table.Column<string>(type: "TEXT", nullable: true),
                    By = table.Column<DateOnly>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StudentGoals", x => x.StudentId);
                    table.ForeignKey(
                        name: "FK_StudentGoals_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "WeekPlans",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Monday = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Cells = table.Column<string>(type: "TEXT", nullable: false),
                    Objective = table.Column<double>(type: "REAL", nullable: false),
                    Bound = table.Column<double>(type: "REAL", nullable: false),
                    AcceptedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    AcceptedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_WeekPlans", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Absences_Day_StudentId",
                table: "Absences",
                columns: new[] { "Day", "StudentId" });

            migrationBuilder.CreateIndex(
                name: "IX_Absences_StudentId",
                table: "Absences",
                column: "StudentId");

            migrationBuilder.CreateIndex(
                name: "IX_PlanSetups_FeedKey",
                table: "PlanSetups",
                column: "FeedKey");

            migrationBuilder.CreateIndex(
                name: "IX_PlanSetups_SavedAt",
                table: "PlanSetups",
                column: "SavedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Sittings_Day_StudentId",
                table: "Sittings",
                columns: new[] { "Day", "StudentId" });

            migrationBuilder.CreateIndex(
                name: "IX_Sittings_StudentId",
                table: "Sittings",
                column: "StudentId");

            migrationBuilder.CreateIndex(
                name: "IX_StockMoves_Stock_LengthMm",
                table: "StockMoves",
                columns: new[] { "Stock", "LengthMm" });

            migrationBuilder.CreateIndex(
                name: "IX_WeekPlans_Monday_AcceptedAt",
                table: "WeekPlans",
                columns: new[] { "Monday", "AcceptedAt" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Absences");

            migrationBuilder.DropTable(
                name: "PlanSetups");

            migrationBuilder.DropTable(
                name: "Sittings");

            migrationBuilder.DropTable(
                name: "StepCredits");

            migrationBuilder.DropTable(
                name: "StockMoves");

            migrationBuilder.DropTable(
                name: "StudentGoals");

            migrationBuilder.DropTable(
                name: "WeekPlans");

            migrationBuilder.DropColumn(
                name: "ClosedAt",
                table: "Booths");

            migrationBuilder.DropColumn(
                name: "ClosedWhy",
                table: "Booths");

            migrationBuilder.DropColumn(
                name: "Column",
                table: "Booths");

            migrationBuilder.DropColumn(
                name: "Has",
                table: "Booths");

            migrationBuilder.DropColumn(
                name: "Processes",
                table: "Booths");

            migrationBuilder.DropColumn(
                name: "Row",
                table: "Booths");
        }
    }
}
