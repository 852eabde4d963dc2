using System.Globalization;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;

namespace Gradus.Simulators;

/// <summary>What a laboratory returns.</summary>
public enum Returns
{
    /// <summary>Results, and the report that says the same on paper.</summary>
    Both,

    /// <summary>Results alone.</summary>
    Results,

    /// <summary>The report alone, as one without a link of its own sends it.</summary>
    Report,
}

/// <summary>
/// A laboratory: asks what was given to it, says that it has it, bends, breaks, etches or films each specimen and returns what it saw. A specimen
/// shows the same however often it is looked at: what is in it follows from its mark.
/// </summary>
/// <param name="wait">How long it has specimens before it returns them.</param>
public sealed class Laboratory(HttpClient client, string key, TimeSpan wait, Returns returns, int seed)
{
    private const double Sound = 0.7;
    private readonly Dictionary<Guid, DateTime> arrived = [];
    private readonly HashSet<Guid> done = [];

    /// <summary>The orders that were answered.</summary>
    public int Answered => done.Count;

    /// <summary>What was refused, and why.</summary>
    public List<string> Refused { get; } = [];

    /// <summary>How often in a row nobody answered.</summary>
    public int Unanswered { get; private set; }

    /// <summary>Looks once what is asked, and returns what is due. Where nobody answers it is tried again the next time.</summary>
    public async Task Turn(CancellationToken cancel)
    {
        try
        {
            using var answer = await client.SendAsync(Request(HttpMethod.Get, "api/lab/orders"), cancel);
            if (!answer.IsSuccessStatusCode)
            {
                Refused.Add($"orders: {(int)answer.StatusCode}");
                return;
            }

            Unanswered = 0;
            foreach (var order in (await answer.Content.ReadFromJsonAsync<JsonElement>(cancel)).EnumerateArray())
            {
                var id = order.GetProperty("id").GetGuid();
                if (done.Contains(id))
                {
                    continue;
                }

                if (!arrived.TryGetValue(id, out var at))
                {
                    await Put($"api/lab/orders/{id}/received", null, cancel);
                    arrived[id] = at = DateTime.UtcNow;
                }

                if (DateTime.UtcNow - at >= wait && await Answer(id, order, cancel))
                {
                    done.Add(id);
                }
            }
        }
        catch (Exception error) when (error is HttpRequestException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            Unanswered++; // it is asked again
        }
    }

    private async Task<bool> Answer(Guid id, JsonElement order, CancellationToken cancel)
    {
        var seen = order.GetProperty("specimens").EnumerateArray().Select(one => Look(order, one)).ToList();
        var lines = new List<string> { $"Report on coupon {order.GetProperty("stamp").GetString()}", "" };
        lines.AddRange(seen.Select(one => one.Says));
        if (
            returns != Returns.Results
            && !await Put($"api/lab/orders/{id}/files/{FileOf(id)}?name=report-{order.GetProperty("stamp").GetString()}.pdf", Paper(lines), cancel)
        )
        {
            return false;
        }

        return returns == Returns.Report
            || await Put($"api/lab/orders/{id}/report", JsonContent.Create(new { found = seen.Select(one => one.Found) }), cancel);
    }

    /// <summary>Done or refused; false when nobody answered.</summary>
    private async Task<bool> Put(string path, HttpContent? body, CancellationToken cancel)
    {
        var request = Request(HttpMethod.Put, path);
        request.Content = body;
        using var answer = await client.SendAsync(request, cancel);
        if ((int)answer.StatusCode is 429 or >= 500)
        {
            return false;
        }

        if (!answer.IsSuccessStatusCode)
        {
            Refused.Add($"{path}: {(int)answer.StatusCode}");
        }

        return true;
    }

    private HttpRequestMessage Request(HttpMethod method, string path)
    {
        var request = new HttpRequestMessage(method, path);
        request.Headers.Add("Gradus-Key", key);
        return request;
    }

    // The same file again is the same file: an answer that was lost on the way is sent once more.
    private static Guid FileOf(Guid order) => new(SHA256.HashData(Encoding.ASCII.GetBytes($"file of {order}")).AsSpan(0, 16));

    private (Dictionary<string, object?> Found, string Says) Look(JsonElement order, JsonElement specimen)
    {
        var mark = specimen.GetProperty("mark").GetString()!;
        var random = new Random(seed + BitConverter.ToInt32(SHA256.HashData(Encoding.UTF8.GetBytes(mark)), 0));
        var isSound = random.NextDouble() < Sound;
        double Size(double most) => Math.Round(0.5 + (random.NextDouble() * (most - 0.5)), 1);
        string Text(double mm) => string.Create(CultureInfo.InvariantCulture, $"{mm:0.0} mm");
        var found = new Dictionary<string, object?> { ["specimen"] = specimen.GetProperty("specimen").GetInt32() };
        var shows = specimen.GetProperty("shows").GetString()!;
        var says = "no fault";
        switch (shows)
        {
            case "bend":
                double[] opened = isSound ? [] : [Size(5)];
                found[shows] = new
                {
                    wallMm = order.GetProperty("thicknessMm").GetDouble(),
                    discontinuities = opened.Select(sizeMm => new
                    {
                        sizeMm,
                        corner = false,
                        fromSlagOrFusion = false,
                    }),
                };
                says = isSound ? "bent, nothing opened" : $"bent, opened {Text(opened[0])}";
                break;
            case "nickBreak":
                double[] pores = isSound ? [] : [Size(3)];
                found[shows] = new
                {
                    completePenetration = true,
                    completeFusion = true,
                    wallMm = order.GetProperty("thicknessMm").GetDouble(),
                    porePercent = isSound ? 0 : 1,
                    poresMm = pores,
                    slag = Array.Empty<object>(),
                };
                says = isSound ? "broken, faces sound" : $"broken, a pore of {Text(pores[0])}";
                break;
            case "filletBreak":
                double[] inside = isSound ? [] : [Size(4)];
                found[shows] = new
                {
                    bentFlat = isSound,
                    fusionToRoot = true,
                    crack = false,
                    inclusionsMm = inside,
                };
                says = isSound ? "bent flat" : $"broken, an inclusion of {Text(inside[0])}";
                break;
            case "macro":
                var isFillet = order.GetProperty("legMm").ValueKind == JsonValueKind.Number;
                double? leg = isFillet ? order.GetProperty("legMm").GetDouble() + 0.4 : null;
                found[shows] = new
                {
                    fillet = isFillet,
                    crack = false,
                    fusionComplete = isSound,
                    rootIndicationMm = 0.0,
                    legAskedMm = (double?)null,
                    legAMm = leg,
                    legBMm = leg,
                    faceWidthMm = leg * Math.Sqrt(2),
                    convexityMm = isFillet ? 0.8 : (double?)null,
                    concavityMm = (double?)null,
                    undercutMm = 0.0,
                    slagMm = order.GetProperty("weld").GetString() == "plug" ? 0.0 : (double?)null,
                };
                says = isSound ? "etched, fused" : "etched, not fused";
                break;
            default:
                double[] shadows = isSound ? [] : [Size(4)];
                found[shows] = shadows.Select(sizeMm => new
                {
                    kind = "rounded",
                    sizeMm,
                    atMm = (double?)null,
                });
                says = isSound ? "filmed, nothing seen" : $"filmed, a rounded indication of {Text(shadows[0])}";
                break;
        }

        return (found, $"{mark}  {specimen.GetProperty("kind").GetString()}: {says}");
    }

    /// <summary>Lines of text on a sheet (PDF 1.4, ISO 32000-1: one page, one of the fonts that each reader has).</summary>
    private static ByteArrayContent Paper(IReadOnlyList<string> lines)
    {
        var text = new StringBuilder("BT /F1 12 Tf 16 TL 60 780 Td");
        foreach (var line in lines)
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $" ({line.Replace("\\", "", StringComparison.Ordinal).Replace("(", "", StringComparison.Ordinal).Replace(")", "", StringComparison.Ordinal)}) Tj T*"
            );
        }

        text.Append(" ET");
        string[] objects =
        [
            "<< /Type /Catalog /Pages 2 0 R >>",
            "<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
            "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Resources << /Font << /F1 5 0 R >> >> /Contents 4 0 R >>",
            $"<< /Length {text.Length} >>\nstream\n{text}\nendstream",
            "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
        ];
        var sheet = new StringBuilder("%PDF-1.4\n");
        var starts = new List<int>();
        foreach (var (place, one) in objects.Index())
        {
            starts.Add(sheet.Length);
            sheet.Append(CultureInfo.InvariantCulture, $"{place + 1} 0 obj\n{one}\nendobj\n");
        }

        var table = sheet.Length;
        sheet.Append(CultureInfo.InvariantCulture, $"xref\n0 {objects.Length + 1}\n0000000000 65535 f \n");
        starts.ForEach(start => sheet.Append(CultureInfo.InvariantCulture, $"{start:0000000000} 00000 n \n"));
        sheet.Append(CultureInfo.InvariantCulture, $"trailer\n<< /Size {objects.Length + 1} /Root 1 0 R >>\nstartxref\n{table}\n%%EOF\n");
        var content = new ByteArrayContent(Encoding.ASCII.GetBytes(sheet.ToString()));
        content.Headers.ContentType = new MediaTypeHeaderValue("application/pdf");
        return content;
    }
}
