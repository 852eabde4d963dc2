using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Gradus.Server.Tests;

/// <summary>
/// Ten thousand requests made from the OpenAPI document, plausible ones with some that are hostile in them. None is answered by a fault of the
/// server, each refusal is problem details, and what was taken breaks no page.
/// </summary>
public sealed class FuzzTests : IAsyncLifetime
{
    private const int Cases = 10_000;
    private const int Seed = 20261130;

    // Those that end the session that asks; and those that take long, in one of so many turns.
    private const int LongOnesTurn = 10;
    private static readonly string[] Never =
    [
        "DELETE /api/session",
        "POST /api/session/everywhere",
        "POST /api/session/wall",
        "PUT /api/session/pin",
        "POST /api/setup",
        "GET /api/floor/events",
    ];
    private static readonly string[] Long =
    [
        "POST /api/weeks/{monday}/solve",
        "POST /api/plan/solve",
        "POST /api/model/fit",
        "POST /api/model/shipped",
        "PUT /api/policies/{testId}",
        "POST /api/readiness/fit",
        "POST /api/coverage",
        "POST /api/school/backups",
        "GET /api/weeks/{monday}/proposal",
        "POST /api/classes/{id}/pins",
        "POST /api/session",
        "GET /api/students/{studentId}/tests/{testId}/grounds",
        "GET /api/students/{studentId}/way",
        "GET /api/students/{studentId}/log.pdf",
        "GET /api/weeks/{monday}",
        "GET /api/floor",
        "GET /api/wall",
    ];

    private readonly Random random = new(Seed);
    private readonly RunningServer server = new();
    private SharedSchool school = null!;
    private JsonNode document = null!;
    private Guid[] ids = [];
    private Guid leadId;

    public async ValueTask InitializeAsync()
    {
        school = await SharedSchool.Make(server);
        leadId = (await SharedSchool.Session(school.Lead)).GetProperty("person").GetProperty("id").GetGuid();
        document = JsonNode.Parse(await school.Lead.GetStringAsync("/openapi/v1.json"))!;
        ids =
        [
            .. school.Students.SelectMany(one => new[] { one.Id, one.Coupon }),
            school.InstructorId,
            .. Enumerable.Range(0, 6).Select(_ => Guid.CreateVersion7()),
        ];
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    [Fact]
    public async Task Whatever_is_sent_is_answered_or_refused_with_problem_details_and_breaks_no_page()
    {
        var operations = document["paths"]!
            .AsObject()
            .SelectMany(path => path.Value!.AsObject().Select(one => (Path: path.Key, Method: one.Key.ToUpperInvariant(), Says: one.Value!)))
            .Where(one => !Never.Contains($"{one.Method} {one.Path}"))
            .ToList();
        var faults = new SortedDictionary<string, string>(StringComparer.Ordinal);
        var answers = new Dictionary<int, int>();
        for (var made = 0; made < Cases; made++)
        {
            var (path, method, says) = operations[random.Next(operations.Count)];
            while (Long.Contains($"{method} {path}") && random.Next(LongOnesTurn) > 0)
            {
                (path, method, says) = operations[random.Next(operations.Count)];
            }

            var isOddPath = false;
            using var request = new HttpRequestMessage(new HttpMethod(method), Address(path, says, ref isOddPath)) { Content = Body(says) };
            using var answer = await Send(request);
            if (answer is null)
            {
                continue;
            }

            if (answer.StatusCode == System.Net.HttpStatusCode.RequestUriTooLong)
            {
                continue; // refused before there is a request to answer
            }

            var code = (int)answer.StatusCode;
            answers[code] = answers.GetValueOrDefault(code) + 1;
            var fault =
                Fault(answer, await answer.Content.ReadAsStringAsync(), isOddPath)
                ?? (says["responses"]![answer.StatusCode.ToString("D")] is null && !isOddPath ? $"{code} is not declared" : null);
            if (fault is not null)
            {
                faults.TryAdd(
                    $"{method} {path}: {fault}",
                    $"{request.RequestUri} {(request.Content is null ? "" : Short(await request.Content.ReadAsStringAsync()))}"
                );
            }

            if (code == 401)
            {
                // Whoever asks was signed out by what was asked.
                school = school with
                {
                    Lead = await Lead(),
                };
            }
        }

        Assert.True(faults.Count == 0, string.Join("\n", faults.Select(one => $"{one.Key}\n    {one.Value}")));

        // It reached the handlers: a fuzz that is refused at the door shows nothing.
        Assert.True(answers.GetValueOrDefault(200) > Cases / 6, string.Join(", ", answers));
        await Walk.EveryView(school.Lead);
    }

    /// <summary>Null when the server hung up on a body that is too large, while it was still being sent: it says so first, but nobody listens yet.</summary>
    private async Task<HttpResponseMessage?> Send(HttpRequestMessage request)
    {
        try
        {
            return await school.Lead.SendAsync(request);
        }
        catch (HttpRequestException) when (request.Content?.Headers.ContentLength > Hosting.Limits.BodyBytes)
        {
            return null;
        }
    }

    private async Task<HttpClient> Lead()
    {
        // A day later: whoever guessed at PINs in the lead's name is forgotten.
        server.Clock.Advance(TimeSpan.FromDays(1));
        var client = await SharedSchool.In(server, leadId, RunningServer.Pin);
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, RunningServer.Pin);
        return client;
    }

    private static string? Fault(HttpResponseMessage answer, string body, bool isOddPath)
    {
        var code = (int)answer.StatusCode;
        if (code < 400)
        {
            return null;
        }

        if (code >= 500)
        {
            return $"{code} {Short(body)}";
        }

        if (answer.Content.Headers.ContentType?.MediaType != "application/problem+json")
        {
            // A path that is none is refused before there is a request to answer.
            return isOddPath && code == 400 && body.Length == 0 ? null : $"{code} is {answer.Content.Headers.ContentType?.MediaType ?? "nothing"}";
        }

        var problem = JsonNode.Parse(body)!;
        return (int?)problem["status"] != code || string.IsNullOrEmpty((string?)problem["title"]) ? $"{code} says {Short(body)}"
            : body.Contains("Exception", StringComparison.Ordinal) || body.Contains("Gradus.", StringComparison.Ordinal)
                ? $"{code} tells of the inside: {Short(body)}"
            : null;
    }

    private static string Short(string text) => text.Length > 400 ? text[..400] : text;

    private Uri Address(string path, JsonNode says, ref bool isOddPath)
    {
        var query = new List<string>();
        foreach (var parameter in says["parameters"]?.AsArray() ?? [])
        {
            var (name, place) = ((string)parameter!["name"]!, (string)parameter["in"]!);
            var isHostile = random.Next(12) == 0;
            var value = isHostile ? Pick(HostileText) : Plain(name, parameter["schema"]!);
            if (place == "path")
            {
                value = value is "" or "." or ".." ? "-" : value;
                isOddPath |= isHostile;
                path = path.Replace($"{{{name}}}", Uri.EscapeDataString(value), StringComparison.Ordinal);
            }
            else if (place == "query" && random.Next(3) > 0)
            {
                query.Add($"{name}={Uri.EscapeDataString(value)}");
            }
        }

        return new Uri(query.Count == 0 ? path : $"{path}?{string.Join('&', query)}", UriKind.Relative);
    }

    private string Plain(string name, JsonNode schema)
    {
        var made = Value(Resolved(schema), name, 0, hostile: false);
        return made is JsonValue value && value.GetValueKind() == JsonValueKind.String ? (string)value! : made?.ToJsonString() ?? "";
    }

    private ByteArrayContent? Body(JsonNode says)
    {
        if (says["requestBody"]?["content"]?.AsObject() is not { } content)
        {
            return null;
        }

        var (type, schema) = (content.First().Key, content.First().Value!["schema"]);
        var bytes = random.Next(40) switch
        {
            0 => Encoding.UTF8.GetBytes(
                Pick(["", "{", "[]", "null", "{\"a\":1,\"a\":2}", "\ud83d\ude00", "{\"x\":\"\\ud800\"}", new string('[', 200)])
            ),
            1 => random.Next(5) == 0 ? new byte[700_000] : [0xff, 0xfe, 0x00],
            _ when !type.Contains("json", StringComparison.Ordinal) => Encoding.UTF8.GetBytes(
                string.Join(
                    '\n',
                    Enumerable
                        .Range(0, 4)
                        .Select(_ => string.Join(',', Enumerable.Range(0, 5).Select(_ => random.Next(3) == 0 ? Pick(HostileText) : Pick(Text))))
                )
            ),
            _ => Encoding.UTF8.GetBytes(Value(Resolved(schema!), "", 0, hostile: true)?.ToJsonString() ?? "null"),
        };
        var made = new ByteArrayContent(bytes);
        made.Headers.ContentType =
            random.Next(60) == 0 ? new MediaTypeHeaderValue("application/x-www-form-urlencoded") : MediaTypeHeaderValue.Parse(type);
        return made;
    }

    private JsonObject Resolved(JsonNode schema)
    {
        var found = schema.AsObject();
        while (found["$ref"] is { } reference)
        {
            found = document["components"]!["schemas"]![((string)reference!).Split('/')[^1]]!.AsObject();
        }

        foreach (var choice in (string[])["oneOf", "anyOf"])
        {
            if (found[choice] is JsonArray any && any.Count > 0)
            {
                return Resolved(any[random.Next(any.Count)]!);
            }
        }

        return found;
    }

    private JsonNode? Value(JsonObject schema, string name, int depth, bool hostile)
    {
        // One leaf in twenty-five is not what belongs there.
        if (hostile && depth > 0 && random.Next(25) == 0)
        {
            return Hostile();
        }

        if (schema["enum"] is JsonArray names)
        {
            return names[random.Next(names.Count)]?.DeepClone();
        }

        var types = schema["type"] is JsonArray several ? several.Select(one => (string)one!).ToList() : [(string?)schema["type"] ?? "object"];
        if (types.Contains("null") && random.Next(4) == 0)
        {
            return null;
        }

        switch (types.FirstOrDefault(one => one != "null"))
        {
            case null:
                return null;
            case "boolean":
                return random.Next(2) == 0;
            case "integer":
                return random.Next(6) == 0 ? Pick([-1, 0, 999, int.MaxValue]) : random.Next(1, 12);
            case "number":
                return Pick([0.0, 0.5, 1, 3.2, 6, 12.7, 25.4, 60, 110, -1]);
            case "array":
                var count = depth > 5 ? 0 : random.Next(4);
                return new JsonArray([
                    .. Enumerable.Range(0, count).Select(_ => schema["items"] is { } items ? Value(Resolved(items), name, depth + 1, hostile) : null),
                ]);
            case "string":
                return Words(name, (string?)schema["format"]);
            default:
                var made = new JsonObject();
                foreach (var (key, inner) in schema["properties"]?.AsObject() ?? [])
                {
                    var required = (schema["required"]?.AsArray() ?? []).Any(one => (string)one! == key);
                    if (depth < 7 && random.Next(required ? 60 : 5) > 0)
                    {
                        made[key] = Value(Resolved(inner!), key, depth + 1, hostile);
                    }
                }

                if (schema["additionalProperties"] is JsonObject more)
                {
                    made[Pick(Text)] = Value(Resolved(more), name, depth + 1, hostile);
                }

                return made;
        }
    }

    private string Words(string name, string? format) =>
        format switch
        {
            "uuid" => (
                random.Next(6) == 0 ? Pick(ids)
                : name == "couponId" ? Pick(school.Students).Coupon
                : name == "studentId" ? Pick(school.Students).Id
                : Pick(ids)
            ).ToString(),
            "date" => Pick(["2031-03-04", "2031-03-03", "2031-03-10", "2030-12-31", "0001-01-01", "9999-12-31", "2028-02-29"]),
            "date-time" => Pick(["2031-03-04T09:00:00Z", "2031-03-03T23:59:59+02:00", "0001-01-01T00:00:00Z", "9999-12-31T23:59:59Z"]),
            "time" => Pick(["09:00:00", "00:00:00", "23:59:59"]),
            _ => name switch
            {
                "testId" => Pick(["P8", "R1", "R2", "P20", "F4"]),
                "id" or "key" => random.Next(2) == 0 ? Pick(ids).ToString() : Pick(["P8", "R1", "aws-d1.1", "asme-ix"]),
                "monday" or "day" or "from" or "to" => Pick(["2031-03-03", "2031-03-10", "2031-03-05"]),
                "pin" => Pick(["190574", "4711", "80517x"]),
                "language" => Pick(["en", "es", "xx"]),
                _ => Pick(Text),
            },
        };

    private JsonNode? Hostile() =>
        random.Next(9) switch
        {
            0 => null,
            1 => Pick([1e308, -1e308, double.Epsilon, 1e15, -0.0, 1e-9]),
            2 => Pick([long.MaxValue, long.MinValue, (long)int.MaxValue + 1, -1L]),
            3 => new JsonArray([.. Enumerable.Range(0, 1200).Select(one => (JsonNode?)one)]),
            4 => new JsonObject { ["__proto__"] = "x", [""] = 1 },
            5 => random.Next(2) == 0,
            _ => JsonValue.Create(Pick(HostileText)),
        };

    private static readonly string[] Text =
    [
        "Ann Berg",
        "3/8 in",
        "1/4",
        "6 mm",
        "70 F",
        "P8",
        "R1",
        "GTAW",
        "E7018",
        "root",
        "5:30",
        "2031-03-04",
        "10:30",
        "A-1",
        "0.5",
        "note",
    ];

    private static readonly string[] HostileText =
    [
        "",
        " ",
        "\0",
        "a\0b",
        "\u0001\u0007\u001b[31m",
        "\u202egnp.exe",
        "\u2066\u2069",
        "\r\nSet-Cookie: a=b",
        "'; DROP TABLE Students; --",
        "=HYPERLINK(\"http://x\")",
        "../../etc/passwd",
        "<script>alert(1)</script>",
        "NaN",
        "Infinity",
        "-1",
        "1e400",
        "99999999999999999999",
        "0001-01-01",
        "9999-12-31",
        "2031-02-30",
        "-2000-01-01",
        "%00",
        "%",
        "\u0130\u0131\ufb03",
        "Zo\u0308e\u0301",
        new string('x', 5000),
        new string('9', 400),
        "1/0 in",
        "0/0",
        "1e-400 mm",
        "\ufeff",
        "\uffff",
    ];

    private T Pick<T>(IReadOnlyList<T> from) => from[random.Next(from.Count)];
}
