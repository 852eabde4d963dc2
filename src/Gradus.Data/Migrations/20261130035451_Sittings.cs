using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Sittings : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_Sittings_StudentId",
                table: "Sittings");

            migrationBuilder.AddColumn<long>(
                name: "BookedAt",
                table: "Sittings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "BoothId",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "ByFilm",
                table: "Sittings",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "CancelledAt",
                table: "Sittings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "CancelledBy",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "CancelledWhy",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "Coupons",
                table: "Sittings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 1);

            migrationBuilder.AddColumn<Guid>(
                name: "DecisionId",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Despite",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "InspectorId",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "InspectorName",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "JudgedBy",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Moves",
                table: "Sittings",
                type: "TEXT",
                nullable: false,
                defaultValueSql: "'[]'");

            migrationBuilder.AddColumn<string>(
                name: "Procedure",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Rules",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Turn",
                table: "Sittings",
                type: "TEXT",
                nullable: false,
                defaultValue: "First");

            migrationBuilder.AddColumn<string>(
                name: "Variants",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "VoidedAt",
                table: "Sittings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "VoidedBy",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "VoidedWhy",
                table: "Sittings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<double>(
                name: "Cost",
                table: "SittingResults",
                type: "REAL",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "FailedBy",
                table: "SittingResults",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "SittingId",
                table: "SittingResults",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "SittingId",
                table: "Coupons",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Terms",
                table: "Coupons",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "CertificateRenewals",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Evidence = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_CertificateRenewals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Certificates",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Number = table.Column<long>(type: "INTEGER", nullable: false),
                    Revision = table.Column<int>(type: "INTEGER", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    SittingId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Code = table.Column<string>(type: "TEXT", nullable: false),
                    TestId = table.Column<string>(type: "TEXT", nullable: true),
                    Title = table.Column<string>(type: "TEXT", nullable: false),
                    Positions = table.Column<string>(type: "TEXT", nullable: false),
                    Processes = table.Column<string>(type: "TEXT", nullable: false),
                    QualifiedOn = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    Route = table.Column<string>(type: "TEXT", nullable: true),
                    Body = table.Column<string>(type: "TEXT", nullable: false),
                    Signature = table.Column<string>(type: "TEXT", nullable: true),
                    PublicKey = table.Column<string>(type: "TEXT", nullable: true),
                    Outside = table.Column<bool>(type: "INTEGER", nullable: false),
                    IssuedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    IssuedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    ReplacedBy = table.Column<Guid>(type: "TEXT", nullable: true),
                    RevokedAt = table.Column<long>(type: "INTEGER", nullable: true),
                    RevokedBy = table.Column<Guid>(type: "TEXT", nullable: true),
                    RevokedWhy = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Certificates", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Certificates_People_IssuedBy",
                        column: x => x.IssuedBy,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Certificates_Sittings_SittingId",
                        column: x => x.SittingId,
                        principalTable: "Sittings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Certificates_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "SittingFiles",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    OwnerId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    MediaType = table.Column<string>(type: "TEXT", nullable: false),
                    Bytes = table.Column<long>(type: "INTEGER", nullable: false),
                    Hash = table.Column<string>(type: "TEXT", nullable: false),
                    Settles = table.Column<bool>(type: "INTEGER", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SittingFiles", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "SittingMarks",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    SittingId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Check = table.Column<string>(type: "TEXT", nullable: false),
                    Text = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false),
                    WitnessId = table.Column<Guid>(type: "TEXT", nullable: true),
                    WitnessName = table.Column<string>(type: "TEXT", nullable: true),
                    Signature = table.Column<string>(type: "TEXT", nullable: true),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SittingMarks", x => x.Id);
                    table.ForeignKey(
                        name: "FK_SittingMarks_People_By",
                        column: x => x.By,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_SittingMarks_People_WitnessId",
                        column: x => x.WitnessId,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_SittingMarks_Sittings_SittingId",
                        column: x => x.SittingId,
                        principalTable: "Sittings",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "UseProofs",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    StudentId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Process = table.Column<string>(type: "TEXT", nullable: false),
                    Day = table.Column<DateOnly>(type: "TEXT", nullable: false),
                    CouponId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Says = table.Column<string>(type: "TEXT", nullable: false),
                    Within = table.Column<string>(type: "TEXT", nullable: false),
                    SignedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    SignedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    WithdrawnAt = table.Column<long>(type: "INTEGER", nullable: true),
                    WithdrawnBy = table.Column<Guid>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_UseProofs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_UseProofs_People_SignedBy",
                        column: x => x.SignedBy,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_UseProofs_Students_StudentId",
                        column: x => x.StudentId,
                        principalTable: "Students",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Sittings_StudentId_Day",
                table: "Sittings",
                columns: new[] { "StudentId", "Day" });

            migrationBuilder.CreateIndex(
                name: "IX_SittingResults_SittingId",
                table: "SittingResults",
                column: "SittingId",
                unique: true,
                filter: "\"SittingId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Coupons_SittingId",
                table: "Coupons",
                column: "SittingId");

            migrationBuilder.CreateIndex(
                name: "IX_CertificateRenewals_Number",
                table: "CertificateRenewals",
                column: "Number");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_IssuedAt",
                table: "Certificates",
                column: "IssuedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_IssuedBy",
                table: "Certificates",
                column: "IssuedBy");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_Number_Revision",
                table: "Certificates",
                columns: new[] { "Number", "Revision" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_SittingId",
                table: "Certificates",
                column: "SittingId");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_StudentId_IssuedAt",
                table: "Certificates",
                columns: new[] { "StudentId", "IssuedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_SittingFiles_OwnerId",
                table: "SittingFiles",
                column: "OwnerId");

            migrationBuilder.CreateIndex(
                name: "IX_SittingMarks_By",
                table: "SittingMarks",
                column: "By");

            migrationBuilder.CreateIndex(
                name: "IX_SittingMarks_SittingId",
                table: "SittingMarks",
                column: "SittingId");

            migrationBuilder.CreateIndex(
                name: "IX_SittingMarks_WitnessId",
                table: "SittingMarks",
                column: "WitnessId");

            migrationBuilder.CreateIndex(
                name: "IX_UseProofs_CouponId_Process",
                table: "UseProofs",
                columns: new[] { "CouponId", "Process" },
                unique: true,
                filter: "\"WithdrawnAt\" IS NULL AND \"CouponId\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_UseProofs_SignedBy",
                table: "UseProofs",
                column: "SignedBy");

            migrationBuilder.CreateIndex(
                name: "IX_UseProofs_StudentId_Day",
                table: "UseProofs",
                columns: new[] { "StudentId", "Day" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "CertificateRenewals");

            migrationBuilder.DropTable(
                name: "Certificates");

            migrationBuilder.DropTable(
                name: "SittingFiles");

            migrationBuilder.DropTable(
                name: "SittingMarks");

            migrationBuilder.DropTable(
                name: "UseProofs");

            migrationBuilder.DropIndex(
                name: "IX_Sittings_StudentId_Day",
                table: "Sittings");

            migrationBuilder.DropIndex(
                name: "IX_SittingResults_SittingId",
                table: "SittingResults");

            migrationBuilder.DropIndex(
                name: "IX_Coupons_SittingId",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "BookedAt",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "BoothId",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "ByFilm",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "CancelledAt",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "CancelledBy",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "CancelledWhy",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Coupons",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "DecisionId",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Despite",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "InspectorId",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "InspectorName",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "JudgedBy",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Moves",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Procedure",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Rules",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Turn",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Variants",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "VoidedAt",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "VoidedBy",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "VoidedWhy",
                table: "Sittings");

            migrationBuilder.DropColumn(
                name: "Cost",
                table: "SittingResults");

            migrationBuilder.DropColumn(
                name: "FailedBy",
                table: "SittingResults");

            migrationBuilder.DropColumn(
                name: "SittingId",
                table: "SittingResults");

            migrationBuilder.DropColumn(
                name: "SittingId",
                table: "Coupons");

            migrationBuilder.DropColumn(
                name: "Terms",
                table: "Coupons");

            migrationBuilder.CreateIndex(
                name: "IX_Sittings_StudentId",
                table: "Sittings",
                column: "StudentId");
        }
    }
}
