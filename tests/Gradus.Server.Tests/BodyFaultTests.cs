using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Gradus.Server.Hosting;

namespace Gradus.Server.Tests;

/// <summary>What is said of a body that does not fit: which field, and what it takes, whatever words the reader has for it.</summary>
public sealed class BodyFaultTests
{
    private sealed record Rod(string? Name, Side? Side, double? DiameterMm, IReadOnlyList<Heat>? Heats, Dictionary<string, int>? Counts)
    {
        public required string Maker { get; init; }
    }

    private sealed record Heat(DateOnly? Day, bool? IsDry, [property: JsonConverter(typeof(ShopMath.TextOrNumber))] string? Number);

    private enum Side
    {
        Face,
        RootSide,
    }

    private static readonly JsonSerializerOptions Options = Made();

    private static JsonSerializerOptions Made()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            NumberHandling = JsonNumberHandling.Strict,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        };
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.MakeReadOnly(populateMissingResolver: true);
        return options;
    }

    [Theory]
    [InlineData("""{"maker":"m","colour":"red"}""", "colour", "There is no such field here")]
    [InlineData("""{"maker":"m","heats":[{"day":null},{"dampness":1}]}""", "heats[1].dampness", "There is no such field here")]
    [InlineData("""{"name":"E7018"}""", "maker", "A required field is missing.")]
    [InlineData("""{"maker":"m","side":"back"}""", "side", "Give one of: face, rootSide.")]
    [InlineData("""{"maker":"m","side":1}""", "side", "Give one of: face, rootSide.")]
    [InlineData("""{"maker":"m","diameterMm":"3.2"}""", "diameterMm", "Numbers are plain")]
    [InlineData("""{"maker":"m","diameterMm":{}}""", "diameterMm", "Numbers are plain")]
    [InlineData("""{"maker":7}""", "maker", "not of the kind")]
    [InlineData("""{"maker":"m","heats":{}}""", "heats", "not of the kind")]
    [InlineData("""{"maker":"m","heats":[{"day":"2031-02-30"}]}""", "heats[0].day", "not of the kind")]
    [InlineData("""{"maker":"m","heats":[{"isDry":"yes"}]}""", "heats[0].isDry", "not of the kind")]
    [InlineData("""{"maker":"m","counts":{"a":1,"b":1.5}}""", "counts.b", "Numbers are plain")]
    [InlineData("""["maker"]""", "body", "not of the kind")]
    [InlineData("""{"maker":"m",}""", "body", "not well-formed")]
    [InlineData("", "body", "not well-formed")]
    [InlineData("""{"maker":"m","diameterMm":NaN}""", "diameterMm", "not well-formed")]
    public void It_names_the_field_and_what_it_takes(string json, string field, string says)
    {
        // Each of them is one that the reader refuses.
        var error = Assert.ThrowsAny<JsonException>(() => JsonSerializer.Deserialize<Rod>(json, Options));
        var fault = BodyFault.Of(Encoding.UTF8.GetBytes(json), typeof(Rod), error, Options);
        Assert.Equal(field, fault.Field);
        Assert.Contains(says, fault.Says, StringComparison.Ordinal);
    }

    [Fact]
    public void Where_nothing_is_known_of_what_was_expected_it_still_answers() =>
        Assert.Equal("body", BodyFault.Of("{\"a\":1}"u8.ToArray(), null, new JsonException(), Options).Field);
}
