using System;
using Microsoft.EntityFrameworkCore.Migrations;

#nullable disable

namespace Gradus.Data.Migrations
{
    /// <inheritdoc />
    public partial class Coach : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.AddColumn<string>(
                name: "Language",
                table: "People",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Units",
                table: "People",
                type: "TEXT",
                nullable: true);

            migrationBuilder.AddColumn<string>(
                name: "Shape",
                table: "Findings",
                type: "TEXT",
                nullable: true);

            migrationBuilder.CreateTable(
                name: "Sentences",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "TEXT", nullable: false),
                    Sentence = table.Column<string>(type: "TEXT", nullable: false),
                    Language = table.Column<string>(type: "TEXT", nullable: false),
                    Says = table.Column<string>(type: "TEXT", nullable: false),
                    At = table.Column<long>(type: "INTEGER", nullable: false),
                    By = table.Column<Guid>(type: "TEXT", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sentences", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Sentences_People_By",
                        column: x => x.By,
                        principalTable: "People",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Sentences_By",
                table: "Sentences",
                column: "By");

            migrationBuilder.CreateIndex(
                name: "IX_Sentences_Sentence_Language",
                table: "Sentences",
                columns: new[] { "Sentence", "Language" },
                unique: true);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.DropTable(
                name: "Sentences");

            migrationBuilder.DropColumn(
                name: "Language",
                table: "People");

            migrationBuilder.DropColumn(
                name: "Units",
                table: "People");

            migrationBuilder.DropColumn(
                name: "Shape",
                table: "Findings");
        }
    }
}
