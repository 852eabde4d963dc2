using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class School : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_ClassGroups_Name",
                table: "ClassGroups");

            migrationBuilder.AddColumn<string>(
                name: "Address",
                table: "Schools",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Currency",
                table: "Schools",
                type: "TEXT",
                nullable: false,
                defaultValue: "USD");

            migrationBuilder.AddColumn<int>(
                name: "IdleMinutes",
                table: "Schools",
                type: "INTEGER",
                nullable: false,
                defaultValue: 10);

            migrationBuilder.AddColumn<bool>(
                name: "StudentsSeeChance",
                table: "Schools",
                type: "INTEGER",
                nullable: false,
                defaultValue: false);

            migrationBuilder.AddColumn<long>(
                name: "EndedAt",
                table: "ClassGroups",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.AddColumn<DateOnly>(
                name: "TermEnds",
                table: "ClassGroups",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<long>(
                name: "RemovedAt",
                table: "Booths",
                type: "INTEGER",
                nullable: true);

            migrationBuilder.CreateIndex(
                name: "IX_ClassGroups_Name",
                table: "ClassGroups",
                column: "Name",
                unique: true,
                filter: "\"EndedAt\" IS NULL");
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropIndex(
                name: "IX_ClassGroups_Name",
                table: "ClassGroups");

            migrationBuilder.DropColumn(
                name: "Address",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "Currency",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "IdleMinutes",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "StudentsSeeChance",
                table: "Schools");

            migrationBuilder.DropColumn(
                name: "EndedAt",
                table: "ClassGroups");

            migrationBuilder.DropColumn(
                name: "TermEnds",
                table: "ClassGroups");

            migrationBuilder.DropColumn(
                name: "RemovedAt",
                table: "Booths");

            migrationBuilder.CreateIndex(
                name: "IX_ClassGroups_Name",
                table: "ClassGroups",
                column: "Name",
                unique: true);
        }
    }
}
