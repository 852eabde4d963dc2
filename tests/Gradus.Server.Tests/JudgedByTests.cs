using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>One coupon, welded out and judged by each code in turn: what it is cut into, what its undercut comes to, what is signed.</summary>
public sealed class JudgedByTests(CoveredTests.Running running) : IClassFixture<CoveredTests.Running>
{
    // NPS 2 Sch 80 in 6G (stainless NPS 6 Sch 40 by D1.6, which is for stainless), undercut of 0.7 mm over 60 mm. AWS D1.1 4.9.1: 1/32 in at any length (95 %); D1.6 read as D1.1 (62 %); ASME IX
    // QW-194 sets none (88 %); API 1104 6.4: 2 in of any 12 in (93 %); ISO 5817 501 C: 0.1 t and 0.5 mm (92 %).
    [Theory]
    [InlineData("aws-d1.1", "R10", "2face 2root", "accept")]
    [InlineData("aws-d1.6", "R5", "2face 2root", "accept")]
    [InlineData("asme-ix", "R10", "2face 2root", "accept")]
    [InlineData("api-1104", "R10", "2nickBreak 2root", "reject")]
    [InlineData("iso-9606-1", "R10", "2face 2root", "reject")]
    public async Task A_coupon_is_cut_and_judged_as_its_code_has_it(string code, string testId, string kinds, string outcome)
    {
        using var client = await running.Server.SignedIn();
        var coupon = Guid.CreateVersion7();
        var start = new
        {
            studentId = await client.AddStudent(testId),
            testId,
            asTest = false,
            judgedBy = code,
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}", start)).EnsureSuccessStatusCode();
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}", start)).EnsureSuccessStatusCode(); // sent twice it is one
        var test = (await client.Coupon(coupon)).GetProperty("test");
        Assert.Equal(code, test.GetProperty("profileId").GetString());
        var cut = test.GetProperty("specimens").EnumerateArray().Select(one => one.GetProperty("kind").GetString()!).ToList();
        Assert.Equal(kinds, string.Join(' ', cut.GroupBy(one => one).OrderBy(one => one.Key).Select(one => $"{one.Count()}{one.Key}")));

        await client.LayAllBeads(coupon);
        var undercut = new
        {
            kind = "undercut",
            stage = "cap",
            clock = "3:00",
            depthMm = 0.7,
            lengthMm = 60,
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", undercut)).EnsureSuccessStatusCode();
        foreach (var (kind, index) in cut.Select((kind, index) => (kind, index)))
        {
            object body = kind is "nickBreak"
                ? new
                {
                    specimen = index,
                    nickBreak = new
                    {
                        completePenetration = true,
                        completeFusion = true,
                        wallMm = 5.5,
                        porePercent = 0,
                        poresMm = Array.Empty<double>(),
                        slag = Array.Empty<object>(),
                    },
                }
                : new { specimen = index, bend = new { wallMm = 5.5, discontinuities = Array.Empty<object>() } };
            (await client.PutEvent(coupon, "specimenTested", body)).EnsureSuccessStatusCode();
        }

        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var verdict = (await client.Coupon(coupon)).GetProperty("verdict");
        Assert.Equal(
            (code, outcome, "accept"),
            (verdict.GetProperty("profileId").GetString(), verdict.GetProperty("kind").GetString(), verdict.GetProperty("inside").GetString())
        );
        Assert.Equal(JsonValueKind.Null, verdict.GetProperty("today").ValueKind);
    }

    [Fact]
    public async Task A_code_that_takes_no_such_coupon_is_refused_and_another_can_be_put_right_while_it_is_open()
    {
        using var client = await running.Server.SignedIn();
        var (coupon, student) = (Guid.CreateVersion7(), await client.AddStudent("P8"));
        object Start(string by) =>
            new
            {
                studentId = student,
                testId = "P8",
                asTest = false,
                judgedBy = by,
            };
        Assert.Equal(["judgedBy"], await (await client.PutAsJsonAsync($"/api/coupons/{coupon}", Start("api-1104"))).Fields(400)); // pipe alone
        Assert.Equal(["judgedBy"], await (await client.PutAsJsonAsync($"/api/coupons/{coupon}", Start("nobody"))).Fields(400));
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}", Start("asme-ix"))).EnsureSuccessStatusCode();
        (await client.PutEvent(coupon, "corrected", new { correction = new { judgedBy = "iso-9606-1" } })).EnsureSuccessStatusCode();
        Assert.Equal("iso-9606-1", (await client.Coupon(coupon)).GetProperty("test").GetProperty("profileId").GetString());
        (await client.PutEvent(coupon, "corrected", new { correction = new { judgedBy = "aws-d1.1" } })).EnsureSuccessStatusCode();
        Assert.Equal("aws-d1.1", (await client.Coupon(coupon)).GetProperty("test").GetProperty("profileId").GetString());
        Assert.Equal(
            ["body.correction.judgedBy"],
            await (await client.PutEvent(coupon, "corrected", new { correction = new { judgedBy = "api-1104" } })).Fields(400)
        );
    }
}
