using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Server.Library;
using Gradus.Server.School;

namespace Gradus.Server.Readiness;

/// <summary>What the coupons of an earlier test lend to the asked one.</summary>
/// <param name="PassedElsewhere">The day on which it was passed elsewhere; null when that is not known or not so.</param>
/// <param name="Without">The chance on the asked test without them.</param>
/// <param name="Shares">What both tests have in common, in words: the process, the kind of root, the position.</param>
/// <param name="Element">The element of it that tells most: the one most often seen of those the tests have in common; null when they share none.</param>
/// <param name="ElementClean">How many of its latest were clean...</param>
/// <param name="ElementSeen">...of how many.</param>
public sealed record Loan(
    string TestId,
    string TestTitle,
    int Coupons,
    int Clean,
    int Sittings,
    DateOnly? PassedElsewhere,
    BandView Without,
    IReadOnlyList<string> Shares,
    string? Element,
    int ElementClean,
    int ElementSeen
);

/// <summary>How a chance was reached, from what is assumed of anybody to all that is known.</summary>
/// <param name="Passing">With all that is known: the chance as it is shown elsewhere.</param>
/// <param name="Assumed">What is assumed of a student of whom nothing was seen.</param>
/// <param name="Own">With this test's coupons and sittings alone.</param>
/// <param name="Lent">With the other tests' alone.</param>
/// <param name="OwnCoupons">Coupons on this test, drills and all...</param>
/// <param name="OwnClean">...and how many were clean.</param>
/// <param name="OwnSittings">Sittings of this test.</param>
/// <param name="OwnElsewhere">The day on which it was passed elsewhere; null when that is not known or not so.</param>
/// <param name="Inside">The chance that what is clean by eye is sound inside.</param>
/// <param name="CutSound">Coupons of the student with this process and kind of root that were cut open and sound...</param>
/// <param name="CutFailed">...and that failed.</param>
/// <param name="Loans">What the other tests lend, the one that moves it most first; the most telling few.</param>
public sealed record ReachedView(
    BandView Passing,
    BandView Assumed,
    BandView Own,
    BandView Lent,
    int OwnCoupons,
    int OwnClean,
    int OwnSittings,
    DateOnly? OwnElsewhere,
    BandView Inside,
    int CutSound,
    int CutFailed,
    IReadOnlyList<Loan> Loans
);

/// <summary>Takes a chance apart: works it out with and without each part of the record.</summary>
public sealed class ReachedReader(EvidenceReader evidence, SchoolLibrary library, ModelInUse model, SchoolClock clock)
{
    private const int MostLoans = 6;
    private const int Latest = 10;

    // What is older has long been forgotten, and each is weighed again for every loan.
    private const int MostTold = 600;

    /// <summary>How the chance of a student on a test was reached.</summary>
    public async Task<ReachedView> Read(Guid studentId, string testId, CancellationToken cancel)
    {
        var all = (await evidence.Read(studentId, cancel)).Where(one => library.Tests.ContainsKey(one.TestId)).TakeLast(MostTold).ToList();
        var asked = SkillTest.Of(library.Tests[testId]);
        var today = CouponSeen.Days(clock.Now);
        ReadinessState With(Func<Witnessed, bool> counts)
        {
            var state = ReadinessState.New(model.Constants);
            foreach (var one in all.Where(counts))
            {
                cancel.ThrowIfCancellationRequested();
                state.Fold(SkillTest.Of(library.Tests[one.TestId]), one.Evidence);
            }

            return state;
        }

        BandView Passing(ReadinessState state) => BandView.From(state.Passing(asked, today));
        var whole = With(_ => true);
        var passing = Passing(whole);
        var others = all.Where(one => one.TestId != testId).GroupBy(one => one.TestId).OrderByDescending(test => test.Count()).Take(MostLoans);
        var loans = others
            .Select(test => LoanOf(asked, library.Tests[test.Key], [.. test], Passing(With(one => one.TestId != test.Key))))
            .OrderByDescending(loan => Math.Abs(loan.Without.Mean - passing.Mean))
            .ToList();
        var own = all.Where(one => one.TestId == testId).ToList();
        var cut = all.Where(one => one.Evidence.Inside is not null && asked.SharesInside(SkillTest.Of(library.Tests[one.TestId]))).ToList();
        return new ReachedView(
            passing,
            Passing(With(_ => false)),
            Passing(With(one => one.TestId == testId)),
            Passing(With(one => one.TestId != testId)),
            own.Count(one => one.IsCoupon),
            own.Count(one => one.IsCoupon && one.Evidence.AllClean),
            own.Count(one => one.Sitting is not null),
            PassedElsewhere(own),
            BandView.From(whole.Inside(asked)),
            cut.Count(one => one.Evidence.Inside == true),
            cut.Count(one => one.Evidence.Inside == false),
            loans
        );
    }

    private DateOnly? PassedElsewhere(List<Witnessed> made) =>
        made.LastOrDefault(one => one.Elsewhere is not null) is { } passed ? clock.DayOf(passed.At) : null;

    private Loan LoanOf(SkillTest asked, TestTemplate test, List<Witnessed> made, BandView without)
    {
        var coupons = made.Where(one => one.IsCoupon).ToList();
        var shared = asked.SharedWith(SkillTest.Of(test));
        var seen = shared
            .Elements.Select(element =>
                (
                    Element: element,
                    Of: coupons
                        .Where(one => one.Evidence.Clean.ContainsKey(element))
                        .TakeLast(Latest)
                        .Select(one => one.Evidence.Clean[element])
                        .ToList()
                )
            )
            .Where(one => one.Of.Count > 0)
            .OrderByDescending(one => one.Of.Count(clean => !clean)) // what fails tells more than what is always clean
            .ThenByDescending(one => one.Of.Count)
            .FirstOrDefault();
        return new Loan(
            test.Id,
            test.Title,
            coupons.Count,
            coupons.Count(one => one.Evidence.AllClean),
            made.Count(one => one.Sitting is not null),
            PassedElsewhere(made),
            without,
            shared.Words,
            seen.Element,
            seen.Of?.Count(clean => clean) ?? 0,
            seen.Of?.Count ?? 0
        );
    }
}
