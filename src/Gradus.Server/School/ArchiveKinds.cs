using System.Collections;
using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;

namespace Gradus.Server.School;

/// <summary>A kind of line in the open archive: a table of the school, each column a member in camel case.</summary>
/// <param name="Name">As its file and schema are called.</param>
/// <param name="Table">In the database.</param>
/// <param name="NamesPeople">True when its lines name somebody, in a column or in what is kept as JSON: not in an archive without names.</param>
public sealed record ArchiveKind(string Name, string Table, string? Says, bool NamesPeople, IReadOnlyList<ArchiveMember> Members);

/// <summary>A member of a line.</summary>
/// <param name="Filler">What stands in the column of a school that is read from an archive, where the member is left out of archives; null: it is not left out.</param>
/// <param name="Replaced">In an archive without names, what stands instead of what it says; null: it stays.</param>
public sealed record ArchiveMember(
    string Name,
    string Column,
    Type Type,
    bool IsRequired,
    string? Says,
    Func<Func<string, object?>, object?>? Filler = null,
    Func<Func<string, object?>, string?>? Replaced = null
);

/// <summary>
/// What the open archive holds, from the database's own model: a table or column that is added later is in it. Left out are what guards a sign-in,
/// and what is worked out anew from the rest.
/// </summary>
public static class ArchiveKinds
{
    public const int Version = 1;

    // Sign-ins of this machine; what is worked out from the rest; and what is on its way into a trace.
    private static readonly Type[] LeftOut = [typeof(SignedSession), typeof(ReadinessRecord), typeof(SkillRecord), typeof(ArcBatch)];

    // Names inside of what is kept: records, signatures, what was said in words.
    private static readonly Type[] Naming =
    [
        typeof(Certificate),
        typeof(CertificateRenewed),
        typeof(UseProof),
        typeof(SittingFile),
        typeof(SittingMark),
        typeof(NoteRecord),
        typeof(PhotoRecord),
        typeof(EventRecord),
        typeof(Tablet),
        typeof(Device),
        typeof(LabOrder),
        typeof(Act),
        typeof(Absence),
        typeof(ModelChange),
    ];

    // What somebody wrote in their own words may name anybody.
    private static readonly string[] OwnWords =
    [
        "Note",
        "Reason",
        "WithdrawnReason",
        "Why",
        "Vouched",
        "ClosedWhy",
        "CancelledWhy",
        "VoidedWhy",
        "Because",
    ];
    private static readonly string[] NamedHere = ["InspectorName", "WitnessName"];
    private static readonly Dictionary<string, Func<Func<string, object?>, object?>> Fillers = new()
    {
        ["People.PasswordHash"] = _ => "", // no PIN
        ["People.UserName"] = row => row("Id")!.ToString()!.ToLowerInvariant(),
        ["People.NormalizedUserName"] = row => row("Id")!.ToString()!.ToUpperInvariant(),
        ["People.SecurityStamp"] = _ => Guid.NewGuid().ToString(),
        ["People.ConcurrencyStamp"] = _ => Guid.NewGuid().ToString(),
        ["Devices.KeyHash"] = _ => Guid.NewGuid().ToString("N"), // no key opens it
        ["PlanSetups.FeedKey"] = _ => Guid.NewGuid().ToString("N") + Guid.NewGuid().ToString("N"),
    };

    private static readonly Lazy<IReadOnlyList<ArchiveKind>> Kinds = new(Read);

    /// <summary>All kinds, by name.</summary>
    public static IReadOnlyList<ArchiveKind> All => Kinds.Value;

    /// <summary>The JSON Schema (2020-12) of the lines of a kind.</summary>
    public static JsonObject Schema(ArchiveKind kind)
    {
        var members = kind.Members.Where(one => one.Filler is null).ToList();
        return new JsonObject
        {
            ["$schema"] = "https://json-schema.org/draft/2020-12/schema",
            ["$id"] = $"urn:gradus:archive:{Version}:{kind.Name}",
            ["title"] = kind.Name,
            ["description"] =
                $"{kind.Says} Lengths are millimetres, temperatures degrees Celsius, moments UTC. A member without a value is left out.".TrimStart(),
            ["type"] = "object",
            ["additionalProperties"] = false,
            ["required"] = new JsonArray([.. members.Where(one => one.IsRequired).Select(one => (JsonNode?)one.Name)]),
            ["properties"] = new JsonObject(members.Select(one => KeyValuePair.Create(one.Name, (JsonNode?)Schema(one)))),
        };
    }

    /// <summary>What is kept in a column, as a line has it; what is kept as JSON stays as it was written.</summary>
    public static void Write(Utf8JsonWriter to, ArchiveMember member, object value)
    {
        switch (value)
        {
            case long moment when member.Type == typeof(DateTimeOffset):
                to.WriteString(
                    member.Name,
                    DateTimeOffset.FromUnixTimeMilliseconds(moment).UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture)
                );
                break;
            case long said when member.Type == typeof(bool):
                to.WriteBoolean(member.Name, said != 0);
                break;
            case long whole:
                to.WriteNumber(member.Name, whole);
                break;
            case double number:
                to.WriteNumber(member.Name, number);
                break;
            case byte[] bytes:
                to.WriteBase64String(member.Name, bytes);
                break;
            case string kept when IsKeptJson(member.Type):
                to.WritePropertyName(member.Name);
                to.WriteRawValue(kept.Contains('\n', StringComparison.Ordinal) ? JsonNode.Parse(kept)!.ToJsonString() : kept);
                break;
            default:
                to.WriteString(member.Name, (string)value);
                break;
        }
    }

    /// <summary>What is put into the column of a member; the other way around.</summary>
    /// <exception cref="FormatException">It is not what the schema says.</exception>
    public static object Column(ArchiveMember member, JsonElement value)
    {
        var type = member.Type;
        return value.ValueKind switch
        {
            JsonValueKind.String when type == typeof(DateTimeOffset) => value.GetDateTimeOffset().ToUnixTimeMilliseconds(),
            JsonValueKind.String when type == typeof(byte[]) => value.GetBytesFromBase64(),
            JsonValueKind.True or JsonValueKind.False when type == typeof(bool) => value.GetBoolean() ? 1L : 0L,
            JsonValueKind.Number when type == typeof(double) => value.GetDouble(),
            JsonValueKind.Number when type == typeof(int) || type == typeof(long) => value.GetInt64(),
            not JsonValueKind.Null and not JsonValueKind.Undefined when IsKeptJson(type) => value.GetRawText(),
            JsonValueKind.String when !type.IsPrimitive => value.GetString()!,
            _ => throw new FormatException(
                $"{member.Name} is {value.ValueKind.ToString().ToLowerInvariant()}, and should be {Schema(member)["type"]}"
            ),
        };
    }

    private static bool IsKeptJson(Type type) =>
        !type.IsPrimitive
        && !type.IsEnum
        && type != typeof(string)
        && type != typeof(Guid)
        && type != typeof(DateTimeOffset)
        && type != typeof(DateOnly)
        && type != typeof(TimeOnly)
        && type != typeof(byte[]);

    private static JsonObject Schema(ArchiveMember member)
    {
        var type = member.Type;
        var made = new JsonObject();
        if (member.Says is not null)
        {
            made["description"] = member.Says;
        }

        if (!IsKeptJson(type))
        {
            made["type"] =
                type == typeof(bool) ? "boolean"
                : type == typeof(int) || type == typeof(long) ? "integer"
                : type == typeof(double) ? "number"
                : "string";
        }
        else if (type != typeof(object) && typeof(IEnumerable).IsAssignableFrom(type) && !IsDictionary(type))
        {
            made["type"] = "array";
        }

        if (Format(type) is { } format)
        {
            made["format"] = format;
        }

        if (type == typeof(byte[]))
        {
            made["contentEncoding"] = "base64";
        }

        if (type.IsEnum)
        {
            made["enum"] = new JsonArray([.. Enum.GetNames(type).Select(one => (JsonNode?)one)]);
        }

        return made;
    }

    private static bool IsDictionary(Type type) =>
        type.IsGenericType && type.GetGenericTypeDefinition() is var of && (of == typeof(Dictionary<,>) || of == typeof(IReadOnlyDictionary<,>));

    private static string? Format(Type type) =>
        type == typeof(DateTimeOffset) ? "date-time"
        : type == typeof(DateOnly) ? "date"
        : type == typeof(TimeOnly) ? "time"
        : type == typeof(Guid) ? "uuid"
        : null;

    private static List<ArchiveKind> Read()
    {
        using var db = SqliteSetup.Open("model.db"); // only its model is asked
        var says = Documented();
        return
        [
            .. db
                .Model.GetEntityTypes()
                .Where(type => !LeftOut.Contains(type.ClrType) && type.GetTableName() is not null)
                .Select(type => Kind(type, says))
                .OrderBy(kind => kind.Name, StringComparer.Ordinal),
        ];
    }

    private static ArchiveKind Kind(IEntityType type, Dictionary<string, string> says)
    {
        var table = type.GetTableName()!;
        return new ArchiveKind(
            Camel(table),
            table,
            says.GetValueOrDefault($"T:{type.ClrType.FullName}"),
            Naming.Contains(type.ClrType),
            [
                .. type.GetProperties()
                    .Select(property =>
                    {
                        var column = property.GetColumnName();
                        return new ArchiveMember(
                            Camel(column),
                            column,
                            Kept(property),
                            !property.IsNullable,
                            says.GetValueOrDefault($"P:{property.PropertyInfo?.DeclaringType?.FullName}.{property.Name}"),
                            Fillers.GetValueOrDefault($"{table}.{column}"),
                            Replaced(table, column, property.IsNullable)
                        );
                    }),
            ]
        );
    }

    /// <summary>What a member is; several traits at once are kept as the number that they make.</summary>
    private static Type Kept(IProperty property)
    {
        var type = Nullable.GetUnderlyingType(property.ClrType) ?? property.ClrType;
        return type.IsEnum && property.GetColumnType() == "INTEGER" ? typeof(long) : type;
    }

    private static Func<Func<string, object?>, string?>? Replaced(string table, string column, bool isNullable) =>
        (table, column) switch
        {
            ("Students", "Name") => row => $"Student {Short(row("Id"))}",
            ("People", "Name") => row => $"{row("Role")} {Short(row("Id"))}",
            ("ClassGroups", "Name") => row => $"Class {Short(row("Id"))}",
            ("Sittings", "Moves") => _ => "[]",
            _ when NamedHere.Contains(column) || OwnWords.Contains(column) => row =>
                row(column) is null ? null
                : isNullable ? null
                : "",
            _ => null,
        };

    private static string Short(object? id) => $"{id}"[^4..].ToUpperInvariant();

    private static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];

    /// <summary>What the program's own comments say of each table and column, where they came along with it.</summary>
    private static Dictionary<string, string> Documented()
    {
        var file = Path.Combine(AppContext.BaseDirectory, "Gradus.Data.xml");
        return File.Exists(file)
            ? XDocument
                .Load(file)
                .Descendants("member")
                .Where(one => one.Element("summary") is not null)
                .ToDictionary(one => (string)one.Attribute("name")!, one => Plain(one.Element("summary")!))
            : [];
    }

    private static string Plain(XElement summary)
    {
        var text = new StringBuilder();
        foreach (var node in summary.DescendantNodes())
        {
            if (node is XText words)
            {
                text.Append(words.Value);
            }
            else if (node is XElement { Name.LocalName: "see" } see)
            {
                text.Append(((string?)see.Attribute("cref") ?? (string?)see.Attribute("langword") ?? "").Split('.', ':')[^1]);
            }
        }

        return string.Join(' ', text.ToString().Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries));
    }
}
