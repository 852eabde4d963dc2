using System.Text.Json.Serialization;

namespace Gradus.Core.Joints;

/// <summary>A point of the joint section in mm: x across from the root corner of member A, y up from the back of member A.</summary>
public readonly record struct SectionPoint([property: JsonRequired] double X, [property: JsonRequired] double Y);
