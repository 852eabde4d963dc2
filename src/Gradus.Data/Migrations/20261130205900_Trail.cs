using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Trail : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<int>(
                name: "KeepActsYears",
                table: "Schools",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<Guid>(
                name: "KeepSaidBy",
                table: "Schools",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<int>(
                name: "KeepStudentsYears",
                table: "Schools",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Acts",
                columns: table => new
                {
                    Id = table.Column<long>(type: "INTEGER", nullable: false)
                        .Annotation("Sqlite:Autoincrement", true),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    PersonId = table.Column<Guid>(type: "TEXT", nullable: false),
                    Operation = table.Column<string>(type: "TEXT", nullable: false),
                    SubjectId = table.Column<Guid>(type: "TEXT", nullable: true),
                    Detail = table.Column<string>(type: "TEXT", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Acts", x => x.Id);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Acts_At",
                table: "Acts",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Acts_PersonId_Id",
                table: "Acts",
                columns: new[] { "PersonId", "Id" });

            migrationBuilder.CreateIndex(
                name: "IX_Acts_SubjectId_Id",
                table: "Acts",
                columns: new[] { "SubjectId", "Id" });
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Acts");

            migrationBuilder.DropColumn(
                name: "KeepActsYears",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "KeepSaidBy",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "KeepStudentsYears",
                table: "Schools");
        }
    }
}
