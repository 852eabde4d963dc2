using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class SittingResults : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "ModelChanges",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Constants = table.Column<string>(type: "TEXT", nullable: true),
                    ScoreBefore = table.Column<double>(type: "REAL", nullable: true),
                    ScoreAfter = table.Column<double>(type: "REAL", nullable: true),
                    Students = table.Column<int>(type: "INTEGER", nullable: false),
                    Coupons = table.Column<int>(type: "INTEGER", nullable: false),
                    Adopted = table.Column<bool>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ModelChanges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "SittingResults",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Passed = table.Column<bool>(type: "INTEGER", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: false),
                    Said = table.Column<string>(type: "TEXT", nullable: false),
                    Coupons = table.Column<int>(type: "INTEGER", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SittingResults", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SittingResults_Instructors_RecordedBy",
                        column: x => x.RecordedBy,
                        principalTable: "Instructors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_SittingResults_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Readiness_Coupons_StudentId",
                table: "Readiness",
                columns: new[] { "Coupons", "StudentId" });

            migrationBuilder.CreateIndex(
                name: "IX_ModelChanges_At",
                table: "ModelChanges",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_SittingResults_Day_Id",
                table: "SittingResults",
                columns: new[] { "Day", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_SittingResults_RecordedBy",
                table: "SittingResults",
                column: "RecordedBy");

            migrationBuilder.CreateIndex(
                name: "IX_SittingResults_StudentId_Day",
                table: "SittingResults",
                columns: new[] { "StudentId", "Day" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "ModelChanges");

            migrationBuilder.DropTable(
                name: "SittingResults");

            migrationBuilder.DropIndex(
                name: "IX_Readiness_Coupons_StudentId",
                table: "Readiness");
        }
    }
}
