using System.Text.Json;
using System.Text.Json.Serialization;

namespace Gradus.Core.Measure;

/// <summary>A probability, 0 to 1.</summary>
[JsonConverter(typeof(ChanceConverter))]
public readonly record struct Chance
{
    private Chance(double value) => Value = value;

    /// <summary>The probability, 0 to 1.</summary>
    public double Value { get; }

    /// <summary>A chance from a probability.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Not from 0 to 1.</exception>
    public static Chance Of(double value) =>
        value is >= 0 and <= 1 ? new Chance(value) : throw new ArgumentOutOfRangeException(nameof(value), value, "A chance is from 0 to 1.");
}

internal sealed class ChanceConverter : JsonConverter<Chance>
{
    public override Chance Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => Chance.Of(reader.GetDouble());

    public override void Write(Utf8JsonWriter writer, Chance value, JsonSerializerOptions options) => writer.WriteNumberValue(value.Value);
}
