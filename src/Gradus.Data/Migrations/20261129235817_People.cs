using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class People : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            // Everybody keeps their id, their name and their PIN. Renamed and not made anew: what refers to it follows by itself.
            migrationBuilder.Sql("DROP INDEX IX_Instructors_Name;");
            migrationBuilder.Sql("ALTER TABLE Instructors RENAME TO People;");
            migrationBuilder.Sql("ALTER TABLE People RENAME COLUMN PinHash TO PasswordHash;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN Role TEXT NOT NULL DEFAULT 'Instructor';");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN CreatedAt INTEGER NOT NULL DEFAULT 0;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN LeftAt INTEGER NULL;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN UserName TEXT NULL;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN NormalizedUserName TEXT NULL;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN SecurityStamp TEXT NULL;");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN ConcurrencyStamp TEXT NULL;");
            migrationBuilder.Sql("UPDATE People SET Role = CASE WHEN IsLead THEN 'Lead' ELSE 'Instructor' END, CreatedAt = CAST(strftime('%s', 'now') AS INTEGER) * 1000, UserName = lower(Id), NormalizedUserName = upper(Id), SecurityStamp = hex(randomblob(16)), ConcurrencyStamp = hex(randomblob(16));");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN IsLead;");

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Photos",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Photos",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Photos",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Passes",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Passes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Passes",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Notes",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Notes",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Notes",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "FitUps",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "FitUps",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "FitUps",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Findings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Findings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Findings",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Events",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Events",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Events",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "ConfirmedAt",
                table: "Closings",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "ConfirmedBy",
                table: "Closings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<bool>(
                name: "Proposed",
                table: "Closings",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<int>(
                name: "Unconfirmed",
                table: "Closings",
                type: "INTEGER",
                nullable: false,
                defaultValue: 0);

            migrationBuilder.CreateTable(
                name: "Tablets",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Name = table.Column<string>(type: "TEXT", nullable: false),
                    PairedBy = table.Column<Guid>(type: "TEXT", nullable: false),
                    PairedAt = table.Column<long>(type: "INTEGER", nullable: false),
                    EndedAt = table.Column<long>(type: "INTEGER", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Tablets", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Sessions",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    PersonId = table.Column<Guid>(type: "TEXT", nullable: false),
                    StartedAt = table.Column<long>(type: "INTEGER", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sessions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Sessions_People_PersonId",
                        column: x => x.PersonId,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateIndex(
                name: "IX_People_Name",
                table: "People",
                column: "Name",
                unique: true,
                filter: "\"Role\" <> 'Student'");

            migrationBuilder.CreateIndex(
                name: "IX_People_NormalizedUserName",
                table: "People",
                column: "NormalizedUserName",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Sessions_PersonId",
                table: "Sessions",
                column: "PersonId");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Sessions");

            migrationBuilder.DropTable(
                name: "Tablets");

            // Students cannot sign in in an earlier program.
            migrationBuilder.Sql("DROP INDEX IX_People_Name;");
            migrationBuilder.Sql("DROP INDEX IX_People_NormalizedUserName;");
            migrationBuilder.Sql("DELETE FROM People WHERE Role = 'Student';");
            migrationBuilder.Sql("ALTER TABLE People ADD COLUMN IsLead INTEGER NOT NULL DEFAULT 0;");
            migrationBuilder.Sql("UPDATE People SET IsLead = Role = 'Lead';");
            migrationBuilder.Sql("ALTER TABLE People RENAME COLUMN PasswordHash TO PinHash;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN Role;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN CreatedAt;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN LeftAt;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN UserName;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN NormalizedUserName;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN SecurityStamp;");
            migrationBuilder.Sql("ALTER TABLE People DROP COLUMN ConcurrencyStamp;");
            migrationBuilder.Sql("ALTER TABLE People RENAME TO Instructors;");

            // Dropping columns makes tables anew; what watches them comes back after.
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingMade;");
            migrationBuilder.Sql("DROP TRIGGER ReadinessClosingChanged;");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Photos");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Passes");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Notes");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Notes");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Notes");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "FitUps");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "FitUps");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "FitUps");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Findings");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Findings");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Findings");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Events");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Events");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Events");

            migrationBuilder.DropColumn(
                name: "ConfirmedAt",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "ConfirmedBy",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "Proposed",
                table: "Closings");

            migrationBuilder.DropColumn(
                name: "Unconfirmed",
                table: "Closings");

            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingMade AFTER INSERT ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = (SELECT StudentId FROM Coupons WHERE Id = NEW.CouponId); END;");
            migrationBuilder.Sql("CREATE TRIGGER ReadinessClosingChanged AFTER UPDATE ON Closings BEGIN UPDATE Readiness SET Stale = 1 WHERE StudentId = (SELECT StudentId FROM Coupons WHERE Id = NEW.CouponId); END;");

            migrationBuilder.CreateIndex(
                name: "IX_Instructors_Name",
                table: "Instructors",
                column: "Name",
                unique: true);
        }
    }
}
