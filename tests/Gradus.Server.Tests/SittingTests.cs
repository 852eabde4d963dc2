using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Server.Qualifications;
using UglyToad.PdfPig;

namespace Gradus.Server.Tests;

/// <summary>From the decision to the record, and what keeps it alive. The clock stands on Tuesday, 4 March 2031.</summary>
public sealed class SittingTests : IAsyncLifetime
{
    private const string Tomorrow = "2031-03-05";
    private readonly RunningServer server = new();
    private HttpClient client = null!;
    private Guid student;

    public async ValueTask InitializeAsync()
    {
        client = await server.SignedIn();
        student = await client.AddStudent(name: "Ειρήνη Čapková-Жук");
        (await client.PutAsync($"/api/students/{student}/safety", null)).EnsureSuccessStatusCode();
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    /// <summary>Days later; a session does not last that long.</summary>
    private async Task Later(int days)
    {
        server.Clock.Advance(TimeSpan.FromDays(days));
        client = await server.SignedIn();
    }

    private async Task<Guid> Decide(string kind = "testNow")
    {
        var id = Guid.CreateVersion7();
        var decision = new
        {
            studentId = student,
            testId = "P8",
            kind,
            reason = "Steady for weeks.",
        };
        (await client.PutAsJsonAsync($"/api/decisions/{id}", decision)).EnsureSuccessStatusCode();
        return id;
    }

    private JsonObject Booking(string day = Tomorrow, int period = 0) =>
        new()
        {
            ["studentId"] = student,
            ["testId"] = "P8",
            ["day"] = day,
            ["period"] = period,
            ["procedure"] = "WPS 12 rev 2",
            ["inspectorName"] = "Bo Rask",
        };

    private Task<HttpResponseMessage> Put(string path, object body) => client.PutAsJsonAsync(path, body);

    private async Task<Guid> Book(string day = Tomorrow, string? turn = null)
    {
        var id = Guid.CreateVersion7();
        var booking = Booking(day);
        if (turn is not null)
        {
            booking["turn"] = turn;
        }

        var booked = await Put($"/api/sittings/{id}", booking);
        Assert.True(booked.IsSuccessStatusCode, await booked.Content.ReadAsStringAsync());
        return id;
    }

    private Task<JsonElement> Sitting(Guid id) => client.GetFromJsonAsync<JsonElement>($"/api/sittings/{id}");

    /// <summary>A coupon of a sitting with all its beads, its bends, and closed.</summary>
    private async Task<Guid> Make(Guid sitting, double opened = 0)
    {
        var coupon = Guid.CreateVersion7();
        (await client.PutAsync($"/api/sittings/{sitting}/coupons/{coupon}", null)).EnsureSuccessStatusCode();
        await client.LayAllBeads(coupon);
        foreach (var specimen in (await client.Coupon(coupon)).GetProperty("test").GetProperty("specimens").EnumerateArray().Index())
        {
            object[] found =
                opened > 0 && specimen.Index == 0
                    ?
                    [
                        new
                        {
                            sizeMm = opened,
                            corner = false,
                            fromSlagOrFusion = false,
                        },
                    ]
                    : [];
            (
                await client.PutEvent(coupon, "specimenTested", new { specimen = specimen.Index, bend = new { discontinuities = found } })
            ).EnsureSuccessStatusCode();
        }

        (await client.Close(coupon)).EnsureSuccessStatusCode();
        return coupon;
    }

    private Task<HttpResponseMessage> Sign(Guid sitting, string outcome, string? note = null) =>
        Put($"/api/sittings/{sitting}/result", new { outcome, note });

    private async Task<Guid> Certified(Guid sitting)
    {
        var id = Guid.CreateVersion7();
        (await Put($"/api/certificates/{id}", new { sittingId = sitting, said = new { heat = "H 4471" } })).EnsureSuccessStatusCode();
        return id;
    }

    /// <summary>A student who passed on 5 March, and the record of it.</summary>
    private async Task<(Guid Sitting, Guid Certificate)> Qualified()
    {
        await Decide();
        var sitting = await Book();
        await Later(1);
        await Make(sitting);
        (await Sign(sitting, "passed")).EnsureSuccessStatusCode();
        return (sitting, await Certified(sitting));
    }

    private async Task<JsonElement> Held() => (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/holds")).GetProperty("held")[0];

    [Fact]
    public async Task A_sitting_goes_from_the_decision_to_a_record_that_holds()
    {
        var decision = await Decide();
        var form = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/booking");
        Assert.Equal(decision, form.GetProperty("decisionId").GetGuid());
        Assert.Empty(form.GetProperty("concerns").EnumerateArray());
        Assert.Equal(0, form.GetProperty("ways").GetArrayLength());

        var sitting = await Book();
        var view = await Sitting(sitting);
        Assert.Equal("booked", view.GetProperty("row").GetProperty("state").GetString());
        Assert.Equal(HttpStatusCode.Conflict, (await client.PutAsync($"/api/sittings/{sitting}/coupons/{Guid.CreateVersion7()}", null)).StatusCode);

        await Later(1);
        Assert.Equal("today", (await Sitting(sitting)).GetProperty("row").GetProperty("state").GetString());
        Assert.Equal(["outcome"], await (await Sign(sitting, "passed")).Fields(409)); // nothing was made
        await Make(sitting);
        Assert.Equal("passed", (await Sitting(sitting)).GetProperty("suggested").GetProperty("outcome").GetString());
        (await Sign(sitting, "passed")).EnsureSuccessStatusCode();
        var certificate = await Certified(sitting);

        var held = await Held();
        Assert.Equal("2031-09-05", held.GetProperty("keeping").GetProperty("endsOn").GetString());
        Assert.Equal("FCAW-S", held.GetProperty("process").GetString());
        var record = (await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{certificate}")).GetProperty("record");
        Assert.Equal("Bo Rask", record.GetProperty("witness").GetString());
        Assert.Equal("WPS 12 rev 2", record.GetProperty("procedure").GetString());
        Assert.Equal(1, record.GetProperty("number").GetInt32());

        // It counts as passed wherever that is asked, and once as evidence: the coupon made there is not a second one.
        var readiness = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/grounds");
        Assert.Equal("passed", readiness.GetProperty("advice").GetProperty("kind").GetString());
        Assert.True((await client.GetFromJsonAsync<JsonElement>("/api/results")).GetProperty("latest")[0].GetProperty("passed").GetBoolean());
    }

    [Fact]
    public async Task What_cannot_be_is_refused_and_what_should_not_be_is_asked_about_once()
    {
        // No decision, and a day on which the class does not meet.
        var id = Guid.CreateVersion7();
        var saturday = Booking("2031-03-08");
        var asked = await Put($"/api/sittings/{id}", saturday);
        Assert.Equal(["despite"], await asked.Fields(409));
        saturday["despite"] = "The inspector is in the house.";
        (await Put($"/api/sittings/{id}", saturday)).EnsureSuccessStatusCode();
        Assert.Equal("The inspector is in the house.", (await Sitting(id)).GetProperty("despite").GetString());

        await Decide();
        Assert.Equal(["day"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", Booking("2031-03-03"))).Fields(400));
        Assert.Equal(["period"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", Booking(period: 9))).Fields(400));
        var turn = Booking();
        turn["turn"] = "atOnce";
        Assert.Equal(["turn"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", turn)).Fields(409));
        var film = Booking();
        film["byFilm"] = true;
        film["testId"] = "F1";
        Assert.Equal(["byFilm"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", film)).Fields(409));

        // Absent.
        (await Put($"/api/absences/{Guid.CreateVersion7()}", new { studentId = student, day = Tomorrow })).EnsureSuccessStatusCode();
        Assert.Equal(["despite"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", Booking())).Fields(409));

        // A booth that is closed, and one that has another sitting.
        var booths = (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/booking"))
            .GetProperty("booths")
            .EnumerateArray()
            .Select(one => one.GetProperty("id").GetGuid())
            .ToList();
        var there = Booking("2031-03-06");
        there["boothId"] = booths[0];
        (await Put($"/api/sittings/{Guid.CreateVersion7()}", there)).EnsureSuccessStatusCode();
        Assert.Equal(["period"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", there.DeepClone())).Fields(409));
        var other = await client.AddStudent();
        there["studentId"] = other;
        Assert.Equal(["studentId"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", there)).Fields(409)); // safety is not signed off
        (await client.PutAsync($"/api/students/{other}/safety", null)).EnsureSuccessStatusCode();
        there["despite"] = "As agreed.";
        Assert.Equal(["boothId"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", there)).Fields(409));
        (await Put($"/api/booths/{booths[1]}/closed", new { why = "Feeder" })).EnsureSuccessStatusCode();
        there["boothId"] = booths[1];
        Assert.Equal(["boothId"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", there)).Fields(409));
    }

    [Fact]
    public async Task A_sitting_is_booked_once_moved_and_called_off_with_a_reason()
    {
        await Decide();
        var id = await Book();
        Assert.False(
            (await (await Put($"/api/sittings/{id}", Booking())).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean()
        );
        Assert.Equal(
            ["procedure"],
            await (
                await Put(
                    $"/api/sittings/{id}",
                    new JsonObject(
                        Booking()
                            .DeepClone()
                            .AsObject()
                            .Where(one => one.Key != "procedure")
                            .Select(one => KeyValuePair.Create(one.Key, one.Value?.DeepClone()))
                    )
                )
            ).Fields(409)
        );

        (
            await Put(
                $"/api/sittings/{id}/moved",
                new
                {
                    day = "2031-03-06",
                    period = 1,
                    why = "Inspector is ill.",
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.False(
            (await (await Put($"/api/sittings/{id}", Booking())).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean()
        ); // as it was booked
        var view = await Sitting(id);
        Assert.Equal("2031-03-06", view.GetProperty("row").GetProperty("day").GetString());
        Assert.Contains("Inspector is ill.", view.GetProperty("moves")[0].GetString());

        // The week and the calendar follow.
        var calendar = await client.GetStringAsync("/api/weeks/2031-03-03/calendar.ics");
        Assert.Contains($"sitting-{id:N}@gradus", calendar);
        Assert.Contains("STATUS:CONFIRMED", calendar);
        Assert.Equal(["why"], await (await Put($"/api/sittings/{id}/cancelled", new { why = "" })).Fields(400));
        (await Put($"/api/sittings/{id}/cancelled", new { why = "Not ready after all." })).EnsureSuccessStatusCode();
        Assert.Contains("STATUS:CANCELLED", await client.GetStringAsync("/api/weeks/2031-03-03/calendar.ics"));
        var list = await client.GetFromJsonAsync<JsonElement>("/api/sittings");
        Assert.Equal(0, list.GetProperty("open").GetArrayLength());
        Assert.Equal("cancelled", list.GetProperty("done")[0].GetProperty("state").GetString());
        Assert.Equal(
            ["id"],
            await (
                await Put(
                    $"/api/sittings/{id}/moved",
                    new
                    {
                        day = "2031-03-07",
                        period = 0,
                        why = "x",
                    }
                )
            ).Fields(409)
        );
    }

    [Fact]
    public async Task Failed_by_a_bend_it_is_repeated_at_once_with_two_coupons_and_after_that_trained_for()
    {
        await Decide();
        var first = await Book();
        await Later(1);
        await Make(first, opened: 5);
        var view = await Sitting(first);
        Assert.Equal("failed", view.GetProperty("suggested").GetProperty("outcome").GetString());
        Assert.Equal(["outcome"], await (await Sign(first, "passed")).Fields(409));
        (await Sign(first, "failed")).EnsureSuccessStatusCode();
        view = await Sitting(first);
        Assert.Contains("bend 1", view.GetProperty("result").GetProperty("failedBy").GetString());
        Assert.Equal(
            [("atOnce", 2), ("afterTraining", 1)],
            view.GetProperty("retest").EnumerateArray().Select(way => (way.GetProperty("turn").GetString()!, way.GetProperty("coupons").GetInt32()))
        );
        Assert.Equal(["sittingId"], await (await Put($"/api/certificates/{Guid.CreateVersion7()}", new { sittingId = first })).Fields(409));

        // What was signed before it is spent.
        Assert.Equal(["despite"], await (await Put($"/api/sittings/{Guid.CreateVersion7()}", Booking("2031-03-06"))).Fields(409));
        server.Clock.Advance(TimeSpan.FromMinutes(5));
        await Decide();
        var again = await Book("2031-03-05", "atOnce");
        await Make(again);
        Assert.Equal(["outcome"], await (await Sign(again, "passed")).Fields(409)); // one of two
        await Make(again);
        Assert.Equal(HttpStatusCode.Conflict, (await client.PutAsync($"/api/sittings/{again}/coupons/{Guid.CreateVersion7()}", null)).StatusCode);
        (await Sign(again, "failed", "Broke off")).EnsureSuccessStatusCode();
        Assert.Equal(
            ["afterTraining"],
            (await Sitting(again)).GetProperty("retest").EnumerateArray().Select(way => way.GetProperty("turn").GetString())
        );

        // Taken back, and signed as what it was.
        client.DefaultRequestHeaders.Remove(Accounts.Signing.Header);
        Assert.Equal(["pin"], await (await client.DeleteAsync($"/api/results/{again}")).Fields(400)); // as it was signed
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, RunningServer.Pin);
        (await client.DeleteAsync($"/api/results/{again}")).EnsureSuccessStatusCode();
        (await Sign(again, "passed")).EnsureSuccessStatusCode();
        await Certified(again);
        Assert.Equal(["id"], await (await client.DeleteAsync($"/api/results/{again}")).Fields(409));
    }

    [Fact]
    public async Task A_void_sitting_says_nothing_of_the_welder()
    {
        await Decide();
        var id = await Book();
        await Later(1);
        Assert.Equal(["note"], await (await Sign(id, "void")).Fields(400));
        (await Sign(id, "void", "The power failed.")).EnsureSuccessStatusCode();
        Assert.Equal("void", (await Sitting(id)).GetProperty("row").GetProperty("state").GetString());
        Assert.Empty((await client.GetFromJsonAsync<JsonElement>("/api/results")).GetProperty("latest").EnumerateArray());
        Assert.Equal(["outcome"], await (await Sign(id, "failed")).Fields(409));
    }

    [Fact]
    public async Task The_days_list_is_witnessed_and_told_to_the_coupon()
    {
        await Decide();
        var id = await Book();
        await Later(1);
        var coupon = Guid.CreateVersion7();
        (await client.PutAsync($"/api/sittings/{id}/coupons/{coupon}", null)).EnsureSuccessStatusCode();
        Task<HttpResponseMessage> Mark(object mark) => Put($"/api/sittings/{id}/marks/{Guid.CreateVersion7()}", mark);
        Assert.Equal(["text"], await (await Mark(new { check = "material" })).Fields(400));
        (await Mark(new { check = "material", text = "H 4471" })).EnsureSuccessStatusCode();
        Assert.Equal(["check"], await (await Mark(new { check = "material", text = "H 4472" })).Fields(409));
        Assert.Equal(["witnessId"], await (await Mark(new { check = "fitUp" })).Fields(400));
        Assert.Equal(
            ["signature"],
            await (
                await Mark(
                    new
                    {
                        check = "fitUp",
                        witnessName = "Bo",
                        signature = "M1 2<script>",
                    }
                )
            ).Fields(400)
        );

        // Somebody of the school with their own PIN; a wrong one is refused.
        var lead = (await client.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("instructors")[0].GetProperty("id").GetGuid();
        client.DefaultRequestHeaders.Remove(Accounts.Signing.Header);
        Assert.Equal(["pin"], await (await Mark(new { check = "position", witnessId = lead })).Fields(400));
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, "9999");
        Assert.Equal(["pin"], await (await Mark(new { check = "position", witnessId = lead })).Fields(403));
        client.DefaultRequestHeaders.Remove(Accounts.Signing.Header);
        server.Clock.Advance(TimeSpan.FromMinutes(10));
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, RunningServer.Pin);
        (await Mark(new { check = "position", witnessId = lead })).EnsureSuccessStatusCode();

        // Somebody from outside who signs on the tablet; the coupon has its hold point answered.
        (
            await Mark(
                new
                {
                    check = "fitUp",
                    witnessName = "Bo Rask",
                    signature = "M10 10 L200 120",
                }
            )
        ).EnsureSuccessStatusCode();
        var points = (await Sitting(id)).GetProperty("points").EnumerateArray().ToDictionary(one => one.GetProperty("id").GetString()!);
        Assert.Equal("Bo Rask", points["fitUp"].GetProperty("witness").GetString());
        Assert.Equal("Lead", points["position"].GetProperty("witness").GetString());
        var history = await client.GetStringAsync($"/api/coupons/{coupon}/history");
        Assert.Contains("osition", history);

        var mark = points["fitUp"].GetProperty("markId").GetGuid();
        (await client.DeleteAsync($"/api/sittings/{id}/marks/{mark}")).EnsureSuccessStatusCode();
        (
            await Mark(
                new
                {
                    check = "fitUp",
                    witnessName = "Bo Rask",
                    signature = "M10 10 L200 120",
                }
            )
        ).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task The_rules_of_the_sitting_are_those_of_its_coupon()
    {
        await Decide();
        var booking = Booking();
        var rules = JsonNode.Parse(
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/booking")).GetProperty("rules").GetRawText()
        )!;
        rules["takeDownAllowed"] = true;
        booking["rules"] = rules.DeepClone();
        var free = Guid.CreateVersion7();
        (await Put($"/api/sittings/{free}", booking)).EnsureSuccessStatusCode();
        rules["takeDownAllowed"] = false;
        booking["rules"] = rules;
        booking["period"] = 1;
        var strict = Guid.CreateVersion7();
        (await Put($"/api/sittings/{strict}", booking)).EnsureSuccessStatusCode();
        await Later(1);
        foreach (var (sitting, broken) in new[] { (free, 0), (strict, 1) })
        {
            var coupon = Guid.CreateVersion7();
            (await client.PutAsync($"/api/sittings/{sitting}/coupons/{coupon}", null)).EnsureSuccessStatusCode();
            await client.LayAllBeads(coupon);
            (await client.PutEvent(coupon, "takenDown", new { })).EnsureSuccessStatusCode();
            var breaches = (await Sitting(sitting)).GetProperty("made")[0].GetProperty("breaches").EnumerateArray().Select(one => one.GetString());
            Assert.Equal(broken, breaches.Count(one => one == "The coupon was taken down."));
        }
    }

    [Fact]
    public async Task A_report_of_the_lab_settles_what_was_not_judged_here_and_is_kept_as_given()
    {
        await Decide();
        var id = await Book();
        await Later(1);
        var coupon = Guid.CreateVersion7();
        (await client.PutAsync($"/api/sittings/{id}/coupons/{coupon}", null)).EnsureSuccessStatusCode();
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.NotEmpty((await Sitting(id)).GetProperty("lacking").EnumerateArray());
        var bytes = Encoding.ASCII.GetBytes("%PDF-1.7 report");
        Task<HttpResponseMessage> Send(Guid file, byte[] content, string type) =>
            client.PutAsync(
                $"/api/sittings/{id}/files/{file}?name=L-18.pdf&settles=true",
                new ByteArrayContent(content) { Headers = { ContentType = new(type) } }
            );
        Assert.Equal(["file"], await (await Send(Guid.CreateVersion7(), "<html>"u8.ToArray(), "application/pdf")).Fields(400));
        var file = Guid.CreateVersion7();
        (await Send(file, bytes, "application/pdf")).EnsureSuccessStatusCode();
        Assert.Equal(bytes, await client.GetByteArrayAsync($"/api/sittings/{id}/files/{file}"));
        Assert.Empty((await Sitting(id)).GetProperty("lacking").EnumerateArray());
        (await Sign(id, "passed")).EnsureSuccessStatusCode();
        var record = (await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{await Certified(id)}")).GetProperty("record");
        Assert.Contains(record.GetProperty("tests").EnumerateArray(), one => one.GetProperty("report").GetString() == "L-18.pdf");
    }

    [Theory]
    [InlineData("a4", 595, 842)]
    [InlineData("letter", 612, 792)]
    public async Task The_record_on_paper_has_every_field_and_its_own_faces(string paper, int width, int height)
    {
        var (_, certificate) = await Qualified();
        var record = (await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{certificate}")).GetProperty("record");
        using var pdf = PdfDocument.Open(await client.GetByteArrayAsync($"/api/certificates/{certificate}/record.pdf?paper={paper}"));
        Assert.All(pdf.GetPages(), page => Assert.Equal((width, height), ((int)Math.Round(page.Width), (int)Math.Round(page.Height))));
        var text = Squeezed(string.Concat(pdf.GetPages().Select(page => page.Text)));
        Assert.Contains(Squeezed("Ειρήνη Čapková-Жук"), text);
        foreach (
            var field in record
                .GetProperty("fields")
                .EnumerateArray()
                .Concat(record.GetProperty("parts").EnumerateArray().SelectMany(part => part.GetProperty("fields").EnumerateArray()))
        )
        {
            foreach (var name in (string[])["label", "actual", "qualified"])
            {
                Assert.Contains(Squeezed(field.GetProperty(name).GetString() ?? ""), text);
            }
        }

        foreach (
            var said in (string[])
                ["No. 1, revision 1", "WPS 12 rev 2", "5 Mar 2031", "5 Sep 2031", "Bo Rask", "H 4471", "Root bend", "accepted", "Lead", "Test school"]
        )
        {
            Assert.Contains(Squeezed(said), text, StringComparison.OrdinalIgnoreCase);
        }

        // Every letter was set in a face that has it, and the faces are in the file.
        var letters = pdf.GetPages().SelectMany(page => page.Letters).ToList();
        Assert.DoesNotContain(letters, letter => letter.Value.Contains('\uFFFD'));
        Assert.True(letters.Select(letter => letter.FontName).Distinct().Count() >= 3);
        Assert.All(letters.Select(letter => letter.FontName).Distinct(), face => Assert.Matches("^[A-Z]{6}\\+", face ?? "")); // a subset that is embedded is named so
    }

    private static string Squeezed(string text) => new([.. text.Normalize(NormalizationForm.FormKC).Where(letter => !char.IsWhiteSpace(letter))]);

    [Fact]
    public async Task The_file_of_a_record_says_whether_it_was_changed()
    {
        var (_, certificate) = await Qualified();
        var file = await client.GetStringAsync($"/api/certificates/{certificate}/record.json");
        var signer = new RecordSigner(new Hosting.GradusOptions("", 0, server.Folder, false));
        Assert.Equal(FileState.Genuine, signer.Check(file));

        // Laid out anew it is the same record; with another letter it is not.
        var pretty = JsonNode.Parse(file)!.ToJsonString(new JsonSerializerOptions { WriteIndented = true });
        Assert.Equal(FileState.Genuine, signer.Check(pretty));
        Assert.Equal(FileState.Changed, signer.Check(file.Replace("WPS 12 rev 2", "WPS 12 rev 3", StringComparison.Ordinal)));
        var node = JsonNode.Parse(file)!;
        node["signature"]!["value"] = Convert.ToBase64String(new byte[64]);
        Assert.Equal(FileState.Changed, signer.Check(node.ToJsonString()));
        Assert.Equal(FileState.NoRecord, signer.Check("{}"));
        Assert.Equal(FileState.NoRecord, signer.Check("not json"));
        Assert.Equal(
            FileState.SignedElsewhere,
            new RecordSigner(new Hosting.GradusOptions("", 0, Path.Combine(server.Folder, "other"), false)).Check(file)
        );

        // It has the shape of the published schema: every member that the schema asks for is there.
        var schema = await client.GetFromJsonAsync<JsonElement>("/api/schemas/qualification-record");
        Assert.All(
            schema.GetProperty("required").EnumerateArray(),
            name => Assert.NotNull(node["record"]!.AsObject().ContainsKey(name.GetString()!) ? "" : null)
        );
    }

    [Fact]
    public async Task A_correction_is_a_new_revision_and_the_old_one_stays()
    {
        var (sitting, certificate) = await Qualified();
        Assert.Equal(["sittingId"], await (await Put($"/api/certificates/{Guid.CreateVersion7()}", new { sittingId = sitting })).Fields(409));
        var next = Guid.CreateVersion7();
        Assert.Equal(["because"], await (await Put($"/api/certificates/{next}", new { sittingId = sitting, replaces = certificate })).Fields(400));
        (
            await Put(
                $"/api/certificates/{next}",
                new
                {
                    sittingId = sitting,
                    replaces = certificate,
                    because = "Heat number misread.",
                    said = new { heat = "H 4477" },
                }
            )
        ).EnsureSuccessStatusCode();
        var old = await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{certificate}");
        Assert.Equal(next, old.GetProperty("replacedBy").GetGuid());
        Assert.Contains("H 4471", old.GetProperty("record").GetRawText());
        var now = await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{next}");
        Assert.Equal(
            (1, 2),
            (now.GetProperty("record").GetProperty("number").GetInt32(), now.GetProperty("record").GetProperty("revision").GetInt32())
        );
        Assert.Equal(2, now.GetProperty("revisions").GetArrayLength());
        Assert.Single((await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/holds")).GetProperty("held").EnumerateArray());

        // Revoked, it holds no more; certified anew it is a revision more.
        (await Put($"/api/certificates/{next}/revoked", new { why = "Doubt of skill." })).EnsureSuccessStatusCode();
        Assert.Empty((await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/holds")).GetProperty("held").EnumerateArray());
    }

    [Fact]
    public async Task What_a_signed_result_stands_on_is_changed_no_more()
    {
        await Decide();
        var sitting = await Book();
        await Later(1);
        var coupon = await Make(sitting);
        Assert.Equal(
            ["body"],
            await (await client.PutEvent(coupon, "corrected", new { correction = new { studentId = await client.AddStudent() } })).Fields(409)
        );
        (await client.PutEvent(coupon, "reopened", new { note = "A pass was left out." })).EnsureSuccessStatusCode();
        (await client.Close(coupon)).EnsureSuccessStatusCode();

        // Signed twice at once it is one result.
        var signed = await Task.WhenAll(Sign(sitting, "passed"), Sign(sitting, "passed"), Sign(sitting, "passed"));
        Assert.All(signed, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        Assert.Single((await client.GetFromJsonAsync<JsonElement>("/api/results")).GetProperty("latest").EnumerateArray());
        Assert.Equal(["couponId"], await (await client.PutEvent(coupon, "reopened", new { note = "Again." })).Fields(409));
        var id = Guid.CreateVersion7();
        (await Put($"/api/coupons/{coupon}/notes/{id}", new { text = "A remark." })).EnsureSuccessStatusCode();

        // Revoked, it is certified anew as a revision more.
        var first = await Certified(sitting);
        (await Put($"/api/certificates/{first}/revoked", new { why = "Wrong heat." })).EnsureSuccessStatusCode();
        var second = await Certified(sitting);
        var record = (await client.GetFromJsonAsync<JsonElement>($"/api/certificates/{second}")).GetProperty("record");
        Assert.Equal(2, record.GetProperty("revision").GetInt32());
        Assert.Contains("Wrong heat.", record.GetProperty("because").GetString());
    }

    [Fact]
    public async Task A_coupon_keeps_a_qualification_alive_once_it_is_signed_for()
    {
        await Qualified();
        await Later(150); // 2 August: ends on 5 September
        Assert.Equal("endsSoon", (await Held()).GetProperty("keeping").GetProperty("kind").GetString());
        var due = await client.GetFromJsonAsync<JsonElement>("/api/floor/due");
        Assert.False(due.GetProperty("ending")[0].GetProperty("open").GetBoolean());
        var coupon = await client.StartCoupon(student, asTest: false);
        await client.LayAllBeads(coupon);
        Assert.DoesNotContain(
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/holds")).GetProperty("toSign").EnumerateArray(),
            one => one.GetProperty("couponId").GetGuid() == coupon
        ); // not closed
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.True((await client.GetFromJsonAsync<JsonElement>("/api/floor/due")).GetProperty("ending")[0].GetProperty("open").GetBoolean());
        var sign = new
        {
            studentId = student,
            uses = new[]
            {
                new
                {
                    id = Guid.CreateVersion7(),
                    couponId = coupon,
                    process = "FCAW-S",
                },
            },
        };
        client.DefaultRequestHeaders.Remove(Accounts.Signing.Header);
        Assert.Equal(["pin"], await (await Put("/api/uses", sign)).Fields(400));
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, RunningServer.Pin);
        (await Put("/api/uses", sign)).EnsureSuccessStatusCode();
        (
            await Put(
                "/api/uses",
                new
                {
                    studentId = student,
                    uses = new[]
                    {
                        new
                        {
                            id = Guid.CreateVersion7(),
                            couponId = coupon,
                            process = "FCAW-S",
                        },
                    },
                }
            )
        ).EnsureSuccessStatusCode();
        var holds = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/holds");
        var proof = Assert.Single(holds.GetProperty("proofs").EnumerateArray()); // counted once
        Assert.Equal([1], proof.GetProperty("keeps").EnumerateArray().Select(one => one.GetInt64()));
        Assert.Equal("2032-02-02", (await Held()).GetProperty("keeping").GetProperty("endsOn").GetString());
        using var log = PdfDocument.Open(await client.GetByteArrayAsync($"/api/students/{student}/log.pdf"));
        Assert.Contains("2 Feb 2032", string.Concat(log.GetPages().Select(page => page.Text)));

        // A process that the coupon does not show is not signed for.
        Assert.Equal(
            ["uses[0]"],
            await (
                await Put(
                    "/api/uses",
                    new
                    {
                        studentId = student,
                        uses = new[]
                        {
                            new
                            {
                                id = Guid.CreateVersion7(),
                                couponId = coupon,
                                process = "SMAW",
                            },
                        },
                    }
                )
            ).Fields(409)
        );
        (await client.DeleteAsync($"/api/uses/{proof.GetProperty("id").GetGuid()}")).EnsureSuccessStatusCode();
        Assert.Equal("2031-09-05", (await Held()).GetProperty("keeping").GetProperty("endsOn").GetString());
    }

    [Fact]
    public async Task What_ends_soon_is_kept_by_a_short_coupon_that_the_week_plans_first()
    {
        await Qualified();
        async Task<JsonElement> Items() => (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/way")).GetProperty("items");
        Assert.DoesNotContain(
            (await Items()).EnumerateArray(),
            one => one.GetProperty("item").GetProperty("id").GetString()!.StartsWith("keep:", StringComparison.Ordinal)
        );
        await Later(150); // Saturday, 2 August: it ends on 5 September
        var first = (await Items())[0].GetProperty("item");
        Assert.StartsWith("keep:FCAW-S:P8:", first.GetProperty("id").GetString(), StringComparison.Ordinal);
        Assert.Equal("drill", first.GetProperty("kind").GetString());
        Assert.Contains("5 Sep 2031", first.GetProperty("why").GetString());

        // Others who gain more do not push it out, and it says of no chance that it grows.
        for (var index = 0; index < 5; index++)
        {
            var other = await client.AddStudent();
            (await client.PutAsync($"/api/students/{other}/safety", null)).EnsureSuccessStatusCode();
        }

        const string Monday = "2031-08-04";
        (await client.PostAsJsonAsync($"/api/weeks/{Monday}/solve", new { seconds = 3 })).EnsureSuccessStatusCode();
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        while ((await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/job", limit.Token)).GetProperty("state").GetString() == "running")
        {
            await Task.Delay(50, limit.Token);
        }

        (await client.PostAsync($"/api/weeks/{Monday}/accept", null)).EnsureSuccessStatusCode();
        var cells = (await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}")).GetProperty("cells").EnumerateArray();
        var kept = Assert.Single(cells, cell => cell.GetProperty("itemId").GetString()!.StartsWith("keep:", StringComparison.Ordinal));
        Assert.Equal((student, 0.0), (kept.GetProperty("studentId").GetGuid(), kept.GetProperty("gain").GetDouble()));

        // A coupon that shows the use waits to be signed for: nothing has to be welded for it.
        var coupon = await client.StartCoupon(student, asTest: false);
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.DoesNotContain(
            (await Items()).EnumerateArray(),
            one => one.GetProperty("item").GetProperty("id").GetString()!.StartsWith("keep:", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_paper_from_elsewhere_counts_by_its_own_dates()
    {
        var paper = new
        {
            code = "iso-9606-1",
            paper = "Harbour yard, 2030-118",
            title = "Pipe, fixed at 45 degrees",
            process = "GTAW",
            product = "pipe",
            weld = "groove",
            position = "6G",
            progression = "uphill",
            thicknessMm = 7.1,
            outsideDiameterMm = 168.3,
            backing = "none",
            fNumber = 6,
            fillerGroup = "FM5",
            testedOn = "2030-06-01",
            lastUsedOn = "2030-11-20",
            route = "9.3b",
        };
        var id = Guid.CreateVersion7();
        (await Put($"/api/students/{student}/outside/{id}", paper)).EnsureSuccessStatusCode();
        (await Put($"/api/students/{student}/outside/{id}", paper)).EnsureSuccessStatusCode();
        var held = await Held();
        Assert.Equal(
            ("2031-05-20", "2032-06-01"),
            (held.GetProperty("keeping").GetProperty("endsOn").GetString(), held.GetProperty("keeping").GetProperty("renewBy").GetString())
        );
        Assert.True(held.GetProperty("outside").GetBoolean());
        Assert.Equal(
            ["position"],
            await (
                await Put(
                    $"/api/students/{student}/outside/{Guid.CreateVersion7()}",
                    new
                    {
                        paper.code,
                        paper.paper,
                        paper.title,
                        paper.process,
                        paper.product,
                        paper.weld,
                        position = "9G",
                        paper.progression,
                        paper.thicknessMm,
                        paper.outsideDiameterMm,
                        paper.backing,
                        paper.testedOn,
                    }
                )
            ).Fields(400)
        );
        Assert.DoesNotContain("\"signature\":", await client.GetStringAsync($"/api/certificates/{id}/record.json")); // it is not the school's to sign
        Assert.Equal(
            ["day"],
            await (
                await Put($"/api/certificates/{id}/renewals/{Guid.CreateVersion7()}", new { day = "2032-01-01", evidence = "RT 18, RT 19" })
            ).Fields(400)
        );
        (
            await Put($"/api/certificates/{id}/renewals/{Guid.CreateVersion7()}", new { day = "2031-03-01", evidence = "RT 18, RT 19" })
        ).EnsureSuccessStatusCode();
        Assert.Equal("2031-09-01", (await Held()).GetProperty("keeping").GetProperty("endsOn").GetString());
    }

    [Fact]
    public async Task The_board_the_figures_and_the_cards_tell_of_the_whole_school()
    {
        await Qualified();
        var board = await client.GetFromJsonAsync<JsonElement>("/api/certificates/board");
        Assert.Equal("FCAW-S", Assert.Single(board.GetProperty("columns").EnumerateArray()).GetProperty("process").GetString());
        Assert.Contains("2031-09-05", await client.GetStringAsync("/api/certificates/board.csv"));
        var figures = await client.GetFromJsonAsync<JsonElement>("/api/certificates/figures");
        var school = figures[figures.GetArrayLength() - 1];
        Assert.Equal(
            (1, 1, 1),
            (
                school.GetProperty("certificates").GetInt32(),
                school.GetProperty("firstSittings").GetInt32(),
                school.GetProperty("firstPassed").GetInt32()
            )
        );
        Assert.True(school.GetProperty("costPerCertificate").GetDouble() > 0);
        using var cards = PdfDocument.Open(await client.GetByteArrayAsync("/api/certificates/cards.pdf"));
        Assert.Contains(Squeezed("Ειρήνη Čapková-Жук"), Squeezed(cards.GetPage(1).Text));
        Assert.Equal(404, (int)(await client.GetAsync($"/api/certificates/cards.pdf?id={Guid.CreateVersion7()}")).StatusCode);
    }

    [Fact]
    public async Task What_is_held_covers_welds_of_a_job_by_one_record_whole()
    {
        await Qualified(); // P8: plate 3G uphill with backing, FCAW-S, 3/8 in
        object Weld(string name, string position, double to, bool backing) =>
            new
            {
                name,
                product = "plate",
                weld = "groove",
                position,
                thicknessMinMm = 5.0,
                thicknessMaxMm = to,
                backing,
                process = "FCAW-S",
                fNumber = 6,
                progression = position == "V" ? "uphill" : "none",
            };
        var answer = await client.PostAsJsonAsync(
            $"/api/students/{student}/covers",
            new
            {
                code = "aws-d1.1",
                aim = "fewest",
                welds = new[]
                {
                    Weld("V", "V", 19.05, true),
                    Weld("thick", "V", 19.1, true),
                    Weld("open", "V", 12, false),
                    Weld("OH", "OH", 12, true),
                },
            }
        );
        answer.EnsureSuccessStatusCode();
        var by = (await answer.Content.ReadFromJsonAsync<JsonElement>()).EnumerateArray().ToList();
        Assert.Equal(
            [1, null, null, null],
            by.Select(one => one.GetProperty("number").ValueKind == JsonValueKind.Null ? (int?)null : one.GetProperty("number").GetInt32())
        );
        Assert.Equal("2031-09-05", by[0].GetProperty("endsOn").GetString());
    }

    [Theory] // Wilson's interval; 8 of 10 as Newcombe (1998) works it: 0.490 to 0.943
    [InlineData(8, 10, 0.490, 0.943)]
    [InlineData(0, 5, 0, 0.434)]
    [InlineData(5, 5, 0.566, 1)]
    public void The_rate_has_its_interval(int passed, int tries, double lower, double upper)
    {
        var rate = BoardReader.Rate(passed, tries)!;
        Assert.Equal((lower, upper), (Math.Round(rate.Lower, 3), Math.Round(rate.Upper, 3)));
        Assert.Null(BoardReader.Rate(0, 0));
    }
}
