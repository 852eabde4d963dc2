namespace Gradus.Server.Hosting;

/// <summary>Why a request was refused, ready to become problem details.</summary>
public sealed record Refusal(int Status, string Title, IReadOnlyDictionary<string, string[]> Errors)
{
    public static Refusal Field(string field, string accepts) =>
        new(StatusCodes.Status400BadRequest, "Some of what was sent cannot be used.", new Dictionary<string, string[]> { [field] = [accepts] });

    /// <summary>A refusal of any kind that names one field.</summary>
    public static Refusal Of(int status, string title, string field, string says) =>
        new(status, title, new Dictionary<string, string[]> { [field] = [says] });

    public static Refusal NotFound(string field, string accepts) =>
        new(StatusCodes.Status404NotFound, "There is no such thing.", new Dictionary<string, string[]> { [field] = [accepts] });

    public static Refusal Conflict(string field, string why) =>
        new(StatusCodes.Status409Conflict, "That does not fit what is already recorded.", new Dictionary<string, string[]> { [field] = [why] });

    public IResult ToResult() =>
        TypedResults.Problem(statusCode: Status, title: Title, extensions: new Dictionary<string, object?> { ["errors"] = Errors });
}

/// <summary>A value, or the reason why there is none.</summary>
public readonly record struct Outcome<T>(T? Value, Refusal? Refusal)
    where T : class
{
    public static implicit operator Outcome<T>(T value) => new(value, null);

    public static implicit operator Outcome<T>(Refusal refusal) => new(null, refusal);

    public IResult ToResult() => Refusal?.ToResult() ?? TypedResults.Ok(Value);
}

/// <summary>A refusal from where no answer can be given; <see cref="Problems"/> turns it into one.</summary>
public sealed class RefusedException(Refusal refusal) : Exception(refusal.Title)
{
    public Refusal Refusal => refusal;
}

/// <summary>What the core says, as an answer.</summary>
public static class CoreAnswers
{
    /// <summary>A refusal of the core as an answer.</summary>
    public static Refusal ToRefusal(this NotPossible refusal) =>
        refusal.Kind switch
        {
            NotPossibleKind.Unknown => Refusal.NotFound(refusal.Field, refusal.Accepts),
            NotPossibleKind.Unfit => Refusal.Field(refusal.Field, refusal.Accepts),
            _ => Refusal.Conflict(refusal.Field, refusal.Accepts),
        };
}
