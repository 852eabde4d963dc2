using System.Security.Claims;
using FluentValidation;
using Gradus.Core;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Safety;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coaching;

public sealed class PutSentenceValidator : AbstractValidator<PutSentence>
{
    private const int MostCharacters = 200;

    public PutSentenceValidator()
    {
        RuleFor(request => request.Sentence)
            .Must(sentence => sentence is not null && Endpoints.Sentences.Contains(sentence))
            .WithMessage("One of the sentences of the coach, as it ships in English.");
        RuleFor(request => request.Language)
            .Must(language => Wording.All.Any(one => one.Language == language))
            .WithMessage($"Give one of: {string.Join(", ", Wording.All.Select(one => one.Language))}.");
        RuleFor(request => request.Says)
            .Must(says => says is null || (!string.IsNullOrWhiteSpace(says) && says.Length <= MostCharacters))
            .WithMessage($"1 to {MostCharacters} characters, or left out to take the school's words back.");
    }
}

/// <summary>The coach: at a coupon, and as a book that the school may say in its own words.</summary>
public static class Endpoints
{
    /// <summary>Every sentence that the school may say in its own words.</summary>
    internal static readonly IReadOnlySet<string> Sentences = CoachBook
        .Sentences.Concat(Procedures.Sentences)
        .Concat(CauseFinder.Rules.SelectMany(rule => new[] { rule.Cause, rule.Why, rule.DoNow, rule.Cure }))
        .Concat(Cautions.All.Select(rule => rule.Text))
        .ToHashSet(StringComparer.Ordinal);

    public static void MapCoaching(this IEndpointRouteBuilder routes)
    {
        routes
            .MapGet("/api/coupons/{couponId:guid}/coach", Coach)
            .WithTags("Coach")
            .Produces<CoachView>()
            .ProducesProblem(StatusCodes.Status404NotFound);
        var group = routes.MapGroup("/api/coach").WithTags("Coach");
        group.MapGet("", Book).Produces<CoachBookView>();
        group
            .MapGet("/demonstration", Demonstrate)
            .Produces<DemonstrationSheet>()
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status404NotFound);
        group.MapPut("/sentences", Put).Validated<PutSentence>().Writes().Produces(StatusCodes.Status204NoContent);
    }

    private static async Task<IResult> Coach(Guid couponId, string? language, CoachReader reader, CancellationToken cancel) =>
        await reader.Read(couponId, language, cancel) is { } view
            ? TypedResults.Ok(view)
            : Refusal.NotFound("couponId", "A coupon of this school.").ToResult();

    private static async Task<IResult> Demonstrate(
        Guid? classId,
        string kind,
        string stage,
        string? language,
        Demonstration demonstration,
        CancellationToken cancel
    ) =>
        !Enum.TryParse<DiscontinuityKind>(kind, ignoreCase: true, out var fault) || !Enum.IsDefined(fault)
            ? Refusal.Field("kind", $"Give one of: {CoreJson.Names<DiscontinuityKind>()}.").ToResult()
        : !Enum.TryParse<Stage>(stage, ignoreCase: true, out var at) || !Enum.IsDefined(at)
            ? Refusal.Field("stage", $"Give one of: {CoreJson.Names<Stage>()}.").ToResult()
        : await demonstration.Read(classId, fault, at, language, cancel) is { } sheet ? TypedResults.Ok(sheet)
        : Refusal.NotFound("kind", "A fault that the class has had of late.").ToResult();

    private static async Task<Ok<CoachBookView>> Book(SchoolSentences sentences, GradusContext db, CancellationToken cancel)
    {
        var school = await sentences.Read(db, cancel);
        return TypedResults.Ok(
            new CoachBookView(
                [.. Wording.All.Select(one => new LanguageView(one.Language, one.Name))],
                [
                    .. CoachBook.Bases.Select(one => new CoachBaseView(
                        one.Id,
                        one.Name,
                        [one.Name, one.Arc.Says, one.Motion.Says, one.Watch, one.Stop, one.Mistakes, one.Right],
                        one.Source
                    )),
                ],
                Procedures.Schools,
                [
                    .. Sentences.Select(sentence => new CoachSentence(
                        sentence,
                        Wording.All.ToDictionary(one => one.Language, one => one.Say(sentence)),
                        school.GetValueOrDefault(sentence)?.In ?? new Dictionary<string, string>()
                    )),
                ]
            )
        );
    }

    private static async Task<NoContent> Put(
        PutSentence request,
        GradusContext db,
        SchoolSentences sentences,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var known = await db.Sentences.FirstOrDefaultAsync(one => one.Sentence == request.Sentence && one.Language == request.Language, cancel);
        var now = time.GetUtcNow();
        if (request.Says is not { } says)
        {
            if (known is not null)
            {
                db.Sentences.Remove(known);
            }
        }
        else if (known is null)
        {
            db.Sentences.Add(
                new SchoolSentence
                {
                    Id = Guid.CreateVersion7(now),
                    Sentence = request.Sentence!,
                    Language = request.Language!,
                    Says = says.Trim(),
                    At = now,
                    By = user.PersonId(),
                }
            );
        }
        else
        {
            (known.Says, known.At, known.By) = (says.Trim(), now, user.PersonId());
        }

        await db.SaveChangesAsync(cancel);
        sentences.Forget();
        return TypedResults.NoContent();
    }
}
