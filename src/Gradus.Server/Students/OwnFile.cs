using System.Data.Common;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>
/// All that is kept of a student, for them to take along: every row under their name and of their coupons, table by table as it is kept. It is read
/// from the database's own list of tables, so that nothing that is added later is left out.
/// </summary>
public static class OwnFile
{
    private static readonly JsonSerializerOptions Readable = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    // What guards a sign-in says nothing of the student.
    private static readonly string[] Secrets = ["PasswordHash", "SecurityStamp", "ConcurrencyStamp", "UserName", "NormalizedUserName"];
    private static readonly string[] CouponsOwn = ["CouponId"];
    private static readonly string[] StudentsOwn = ["StudentId", "PersonId"];

    /// <summary>The file; 404 when there is no such student.</summary>
    public static async Task<IResult> Give(Guid studentId, GradusContext db, TimeProvider time, CancellationToken cancel) =>
        await Read(studentId, db, time, cancel) is { } file
            ? TypedResults.File(JsonSerializer.SerializeToUtf8Bytes(file, Readable), "application/json", $"student-{studentId:N}.json")
            : Unknown.ToResult();

    /// <summary>There is no such student.</summary>
    public static Refusal Unknown => Refusal.NotFound("studentId", "A student.");

    /// <summary>What is in the file; null when there is no such student.</summary>
    public static async Task<JsonObject?> Read(Guid studentId, GradusContext db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return null;
        }

        var connection = db.Database.GetDbConnection();
        await db.Database.OpenConnectionAsync(cancel);
        var kept = new JsonObject();
        foreach (var (table, columns) in await Tables(connection, cancel))
        {
            var where =
                table is "Students" or "People" ? "Id = $id"
                : columns.Intersect(StudentsOwn).FirstOrDefault() is { } own ? $"\"{own}\" = $id"
                : columns.Intersect(CouponsOwn).Any() ? "CouponId IN (SELECT Id FROM Coupons WHERE StudentId = $id)"
                : table == "SittingFiles"
                    ? "OwnerId IN (SELECT Id FROM Sittings WHERE StudentId = $id UNION SELECT Id FROM Certificates WHERE StudentId = $id UNION SELECT Id FROM LabOrders WHERE CouponId IN (SELECT Id FROM Coupons WHERE StudentId = $id))"
                : table == "SittingMarks" ? "SittingId IN (SELECT Id FROM Sittings WHERE StudentId = $id)"
                : table == "CertificateRenewals" ? "Number IN (SELECT Number FROM Certificates WHERE StudentId = $id)"
                : null;
            if (where is not null && await Rows(connection, table, where, studentId, cancel) is { Count: > 0 } rows)
            {
                kept[char.ToLowerInvariant(table[0]) + table[1..]] = rows;
            }
        }

        var school = await db.Schools.AsNoTracking().Select(one => one.Name).FirstAsync(cancel);
        return new JsonObject
        {
            ["school"] = school,
            ["student"] = student.Name,
            ["madeAt"] = time.GetUtcNow(),
            ["says"] =
                "All that this school keeps of the student, table by table. Lengths are millimetres, temperatures degrees Celsius, moments UTC. Photos are named here and lie with the school.",
            ["kept"] = kept,
        };
    }

    private static async Task<List<(string Table, List<string> Columns)>> Tables(DbConnection connection, CancellationToken cancel)
    {
        await using var command = connection.CreateCommand();
        command.CommandText =
            "SELECT m.name, c.name FROM sqlite_master m JOIN pragma_table_info(m.name) c WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite_%' ORDER BY m.name, c.cid";
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var found = new List<(string Table, string Column)>();
        while (await reader.ReadAsync(cancel))
        {
            found.Add((reader.GetString(0), reader.GetString(1)));
        }

        return [.. found.GroupBy(one => one.Table).Select(group => (group.Key, group.Select(one => one.Column).ToList()))];
    }

    private static async Task<JsonArray> Rows(DbConnection connection, string table, string where, Guid student, CancellationToken cancel)
    {
        await using var command = connection.CreateCommand();
        command.CommandText = $"SELECT * FROM \"{table}\" WHERE {where}";
        var id = command.CreateParameter();
        (id.ParameterName, id.Value) = ("$id", student);
        command.Parameters.Add(id);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var rows = new JsonArray();
        while (await reader.ReadAsync(cancel))
        {
            var row = new JsonObject();
            for (var at = 0; at < reader.FieldCount; at++)
            {
                var name = reader.GetName(at);
                if (!Secrets.Contains(name) && !reader.IsDBNull(at))
                {
                    row[char.ToLowerInvariant(name[0]) + name[1..]] = Value(name, reader.GetValue(at));
                }
            }

            rows.Add(row);
        }

        return rows;
    }

    /// <summary>Moments as they are written, kept JSON as JSON, all else as it is.</summary>
    private static JsonNode? Value(string column, object value) =>
        value switch
        {
            long moment when column.EndsWith("At", StringComparison.Ordinal) => DateTimeOffset
                .FromUnixTimeMilliseconds(moment)
                .ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture),
            long whole => whole,
            double number => number,
            string text when text.Length > 0 && text[0] is '{' or '[' => Parsed((string)value),
            byte[] bytes => Convert.ToBase64String(bytes),
            _ => value.ToString(),
        };

    private static JsonNode? Parsed(string text)
    {
        try
        {
            return JsonNode.Parse(text);
        }
        catch (JsonException)
        {
            return text;
        }
    }
}
