using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class First : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "Booths",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Number = table.Column<int>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Booths", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ClassGroups",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MeetsOn = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ClassGroups", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Instructors",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    IsLead = table.Column<bool>(type: "INTEGER", nullable: false),
                    PinHash = table.Column<string>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Instructors", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Schools",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    TimeZone = table.Column<string>(type: "TEXT", nullable: false),
                    IsDemo = table.Column<bool>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Schools", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Students",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    ClassGroupId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Hand = table.Column<string>(type: "TEXT", nullable: false),
                    TargetTestId = table.Column<string>(type: "TEXT", nullable: false),
                    Note = table.Column<string>(type: "TEXT", nullable: true),
                    CreatedAt = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Students", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Students_ClassGroups_ClassGroupId",
                        column: x => x.ClassGroupId,
                        principalTable: "ClassGroups",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Coupons",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    Stamp = table.Column<string>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    TestVersion = table.Column<int>(type: "INTEGER", nullable: false),
                    DrillId = table.Column<string>(type: "TEXT", nullable: true),
                    Variants = table.Column<string>(type: "TEXT", nullable: false),
                    BoothId = table.Column<Guid>(type: "TEXT", nullable: true),
                    AsTest = table.Column<bool>(type: "INTEGER", nullable: false),
                    StartedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    StartedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    ClosedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Coupons", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Coupons_Booths_BoothId",
                        column: x => x.BoothId,
                        principalTable: "Booths",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Coupons_Instructors_StartedBy",
                        column: x => x.StartedBy,
                        principalTable: "Instructors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Coupons_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Decisions",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Reason = table.Column<string>(type: "TEXT", nullable: false),
                    Estimate = table.Column<string>(type: "TEXT", nullable: false),
                    SignedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SignedBy = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Decisions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Decisions_Instructors_SignedBy",
                        column: x => x.SignedBy,
                        principalTable: "Instructors",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Decisions_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Closings",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Verdict = table.Column<string>(type: "TEXT", nullable: false),
                    StageClean = table.Column<string>(type: "TEXT", nullable: false),
                    Decides = table.Column<bool>(type: "INTEGER", nullable: false),
                    ProgramVersion = table.Column<string>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Closings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Closings_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "FitUps",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Measured = table.Column<string>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FitUps", x => x.Id);
                    table.ForeignKey(
                        name: "FK_FitUps_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Notes",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notes", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Notes_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Passes",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    BeadKey = table.Column<string>(type: "TEXT", nullable: false),
                    Stage = table.Column<string>(type: "TEXT", nullable: false),
                    Layer = table.Column<int>(type: "INTEGER", nullable: false),
                    Process = table.Column<string>(type: "TEXT", nullable: false),
                    ElectrodeClass = table.Column<string>(type: "TEXT", nullable: false),
                    DiameterMm = table.Column<double>(type: "REAL", nullable: false),
                    Polarity = table.Column<string>(type: "TEXT", nullable: false),
                    Amps = table.Column<double>(type: "REAL", nullable: false),
                    Volts = table.Column<double>(type: "REAL", nullable: true),
                    WireFeedMmPerMin = table.Column<double>(type: "REAL", nullable: true),
                    Gas = table.Column<string>(type: "TEXT", nullable: true),
                    Technique = table.Column<string>(type: "TEXT", nullable: false),
                    Progression = table.Column<string>(type: "TEXT", nullable: false),
                    Hand = table.Column<string>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Passes", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Passes_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Findings",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    PassId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Kind = table.Column<string>(type: "TEXT", nullable: false),
                    Stage = table.Column<string>(type: "TEXT", nullable: false),
                    ClockMinutes = table.Column<int>(type: "INTEGER", nullable: true),
                    FromStartMm = table.Column<double>(type: "REAL", nullable: true),
                    DepthMm = table.Column<double>(type: "REAL", nullable: true),
                    HeightMm = table.Column<double>(type: "REAL", nullable: true),
                    LengthMm = table.Column<double>(type: "REAL", nullable: true),
                    DiameterMm = table.Column<double>(type: "REAL", nullable: true),
                    WidthMm = table.Column<double>(type: "REAL", nullable: true),
                    Count = table.Column<int>(type: "INTEGER", nullable: true),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: false),
                    RecordedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    RecordedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Findings", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Findings_Coupons_CouponId",
                        column: x => x.CouponId,
                        principalTable: "Coupons",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Findings_Passes_PassId",
                        column: x => x.PassId,
                        principalTable: "Passes",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Booths_Number",
                table: "Booths",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_ClassGroups_Name",
                table: "ClassGroups",
                column: "Name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Closings_CouponId",
                table: "Closings",
                column: "CouponId",
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Closings_CouponId_RecordedAt",
                table: "Closings",
                columns: new[] { "CouponId", "RecordedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_BoothId",
                table: "Coupons",
                column: "BoothId");

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_ClosedAt",
                table: "Coupons",
                column: "ClosedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_Number",
                table: "Coupons",
                column: "Number",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_Stamp",
                table: "Coupons",
                column: "Stamp",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_StartedBy",
                table: "Coupons",
                column: "StartedBy");

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_StudentId_StartedAt",
                table: "Coupons",
                columns: new[] { "StudentId", "StartedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_StudentId_TestId_ClosedAt",
                table: "Coupons",
                columns: new[] { "StudentId", "TestId", "ClosedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Decisions_SignedBy",
                table: "Decisions",
                column: "SignedBy");

            migrationBuilder.CreateIndex(
                name: "IX_Decisions_StudentId_SignedAt",
                table: "Decisions",
                columns: new[] { "StudentId", "SignedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Findings_CouponId_RecordedAt",
                table: "Findings",
                columns: new[] { "CouponId", "RecordedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Findings_PassId",
                table: "Findings",
                column: "PassId");

            migrationBuilder.CreateIndex(
                name: "IX_FitUps_CouponId_RecordedAt",
                table: "FitUps",
                columns: new[] { "CouponId", "RecordedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Instructors_Name",
                table: "Instructors",
                column: "Name",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Notes_CouponId",
                table: "Notes",
                column: "CouponId");

            migrationBuilder.CreateIndex(
                name: "IX_Passes_CouponId_BeadKey",
                table: "Passes",
                columns: new[] { "CouponId", "BeadKey" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Passes_CouponId_RecordedAt",
                table: "Passes",
                columns: new[] { "CouponId", "RecordedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Students_ClassGroupId",
                table: "Students",
                column: "ClassGroupId");

            migrationBuilder.CreateIndex(
                name: "IX_Students_Name",
                table: "Students",
                column: "Name");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Closings");

            migrationBuilder.DropTable(
                name: "Decisions");

            migrationBuilder.DropTable(
                name: "Findings");

            migrationBuilder.DropTable(
                name: "FitUps");

            migrationBuilder.DropTable(
                name: "Notes");

            migrationBuilder.DropTable(
                name: "Schools");

            migrationBuilder.DropTable(
                name: "Passes");

            migrationBuilder.DropTable(
                name: "Coupons");

            migrationBuilder.DropTable(
                name: "Booths");

            migrationBuilder.DropTable(
                name: "Instructors");

            migrationBuilder.DropTable(
                name: "Students");

            migrationBuilder.DropTable(
                name: "ClassGroups");
        }
    }
}
