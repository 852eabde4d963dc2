using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Gradus.Data;

// How columns are kept. The model that is made ahead names these and what they call: they are public, and their expressions use nothing that is not.

/// <summary>SQLite cannot order by a moment; UTC milliseconds sort, index and compare as numbers.</summary>
public sealed class UtcMilliseconds()
    : ValueConverter<DateTimeOffset, long>(time => time.ToUnixTimeMilliseconds(), stored => DateTimeOffset.FromUnixTimeMilliseconds(stored));

/// <summary>A value of the core under a version of its shape.</summary>
public sealed class KeptConverter<T>() : ValueConverter<T, string>(value => Kept.Keep(value), stored => Kept.Take<T>(stored));

/// <summary>A list or a table.</summary>
public sealed class KeptListConverter<T>() : ValueConverter<T, string>(value => Kept.KeepList(value), stored => Kept.TakeList<T>(stored));

/// <summary>A list that is changed in place: the same items in the same order.</summary>
public sealed class ListComparer<T>() : ValueComparer<List<T>>((a, b) => a!.SequenceEqual(b!), list => list.Count, list => new List<T>(list));

/// <summary>A table: the same values under the same keys.</summary>
public sealed class TableComparer<TKey, TValue>()
    : ValueComparer<Dictionary<TKey, TValue>>(
        (a, b) => a!.Count == b!.Count && !a.Except(b).Any(),
        table => table.Count,
        table => new Dictionary<TKey, TValue>(table)
    )
    where TKey : notnull;

/// <summary>What is written once and never changed in place.</summary>
public sealed class WrittenComparer<T>()
    : ValueComparer<T>((a, b) => ReferenceEquals(a, b), value => value == null ? 0 : value.GetHashCode(), value => value)
    where T : class?;
