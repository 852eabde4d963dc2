using System.Text.RegularExpressions;
using Gradus.Core.Coaching;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Safety;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Coaching;

/// <summary>The cards of every bead that the library can ask for. Facts of technique are common practice.</summary>
public partial class CoachBookTests
{
    private const int MostCharacters = 60;

    /// <summary>Every test in every one of its variants, one choice at a time.</summary>
    private static IEnumerable<TestTemplate> Ways =>
        TestLibrary.Shipped.Values.SelectMany(test =>
            test.Variants.SelectMany(group => group.Options.Select(option => test.With(new Dictionary<string, string> { [group.Id] = option.Id })))
                .Prepend(test)
        );

    private static IEnumerable<(TestTemplate Test, PlannedBead Bead, CoachPlace Place)> Beads =>
        from test in Ways
        let beads = test.Beads()
        from bead in beads
        from zone in CoachBook.ZonesOf(test)
        select (test, bead, CoachBook.PlaceOf(test, beads, bead, zone));

    private static IEnumerable<string> Lines(CoachCard card) =>
        new[]
        {
            card.Angle.Says,
            card.Angle.Here,
            card.Arc.Says,
            card.Arc.Here,
            card.Motion.Says,
            card.Motion.Here,
            card.Watch.Says,
            card.Watch.Here,
            card.Place.Says,
            card.Place.Here,
            card.Stop,
            card.Pace,
        }.OfType<string>();

    [Theory]
    [InlineData("en")]
    [InlineData("es")]
    public void Every_bead_of_every_test_has_a_whole_card(string language)
    {
        var words = Wording.In(language);
        var seen = 0;
        foreach (var (test, bead, place) in Beads)
        {
            var card = CoachBook.Card(place, words);
            seen++;
            var where = $"{test.Id} {bead.Key} {place.Position} {place.Zone}";
            Assert.All(Lines(card), line => Assert.True(line.Length is > 0 and <= MostCharacters, $"{where}: {line.Length} {line}"));
            Assert.All(Lines(card).Append(card.Mistakes).Append(card.Right), line => Assert.DoesNotMatch(@"\{|\[en\]", line));
            Assert.True(card.MinDeg >= 0 && card.MinDeg <= card.MaxDeg, where);
            Assert.True(card.Angle.Here is not null && card.Watch.Here is not null && card.Body is not null, $"{where}: nothing of its position");
            Assert.Equal(place.Process is Process.Gmaw or Process.FcawG or Process.FcawS, card.IsStickOut);
            Assert.NotNull(Procedures.RestartOf(place, words).GoOn);
            if (place.Process == Process.Smaw)
            {
                Assert.NotNull(card.Pace);
            }
        }

        Assert.True(seen > 2000, $"{seen} beads were seen.");
    }

    [Fact]
    public void Nothing_says_push_where_it_drags_nor_drag_where_it_pushes()
    {
        foreach (var (test, bead, place) in Beads)
        {
            var card = CoachBook.Card(place, Wording.English);
            var travel = $"{card.Angle.Says} {card.Angle.Here} {card.Motion.Says} {card.Watch.Says}";
            Assert.DoesNotContain(card.Travel == TravelAngle.Drag ? "push" : "drag", travel, StringComparison.OrdinalIgnoreCase);
            var where = $"{test.Id} {bead.Key} {place.Position} {place.Progression}";

            // Slag must be held behind: self-shielded wire, and rods that do not climb, are dragged. A torch without slag is pushed.
            var drags =
                place.Process == Process.FcawS
                || (place.Process == Process.Smaw && (place.Progression == Progression.Downhill || place.Position is "1G" or "4G" or "1F" or "2F"));
            Assert.True(!drags || card.Travel == TravelAngle.Drag || card.Id == "S1", where);
            Assert.True(place.Process != Process.Gtaw || card.Travel == TravelAngle.Push, where);
            var climbs = place is { Process: Process.Smaw, Progression: Progression.Uphill } && place.Position is not ("1F" or "2F" or "4F");
            Assert.True(!climbs || card.Travel == TravelAngle.Push, where);
        }
    }

    /// <summary>Which ways of welding a test is made of.</summary>
    [Theory]
    [InlineData("P1", "S5 S7 S8")]
    [InlineData("P2", "S6 S8")]
    [InlineData("P10", "S6 S8")]
    [InlineData("P3", "S2 S8")]
    [InlineData("P4", "S5 S8")]
    [InlineData("P5", "S1 S7 S8")]
    [InlineData("R2", "S1 S7 S8")]
    [InlineData("R3", "S1 S7 S8")]
    [InlineData("P6", "T1 T5 S8")]
    [InlineData("P7", "G1")]
    [InlineData("P8", "N1")]
    [InlineData("P9", "M1 M2")]
    [InlineData("F1", "F-S")]
    [InlineData("F2", "T7")]
    [InlineData("F3", "T2")]
    [InlineData("R1", "T1 T5 T6")]
    [InlineData("R5", "T1 T5 T6")]
    [InlineData("R4", "S3 S4 S7 S8 S9")]
    [InlineData("R7", "M1 G1")]
    [InlineData("R8", "T4 T5 T6")]
    [InlineData("R9", "S1")]
    public void A_test_is_coached_by_the_cards_of_its_work(string id, string cards)
    {
        var test = TestLibrary.Shipped[id];
        var beads = test.Beads();
        var used = beads.Select(bead => CoachBook.Card(CoachBook.PlaceOf(test, beads, bead, CoachBook.ZonesOf(test)[0]), Wording.English).Id);
        Assert.Equal(cards.Split(' ').Order(), used.Distinct().Order());
    }

    [Fact]
    public void At_six_o_clock_of_a_fixed_pipe_the_rod_is_pushed_at_most_five_degrees()
    {
        var test = TestLibrary.Shipped["R2"];
        var beads = test.Beads();
        Assert.Equal(5, CoachBook.Card(CoachBook.PlaceOf(test, beads, beads[0], PipeZone.Bottom), Wording.English).MaxDeg);
        Assert.Equal(10, CoachBook.Card(CoachBook.PlaceOf(test, beads, beads[0], PipeZone.Side), Wording.English).MaxDeg);
    }

    /// <summary>What a rod or a minute makes of the beads as they are planned. Usual runs: common practice.</summary>
    [Theory]
    [InlineData("R3", "root-1-1", 4.5, 7.5)] // 1/8 in E6010 root uphill: 5 to 7 in a rod
    [InlineData("P2", "fill-2-1", 5, 11)] // 1/8 in E7018 stringer: 6 to 10 in
    [InlineData("P4", "fill-2-1", 2.5, 6)] // 3/32 in E7018: 2 1/2 to 5 in
    public void A_rod_makes_about_what_is_usual(string id, string key, double least, double most)
    {
        var test = TestLibrary.Shipped[id];
        var beads = test.Beads();
        var bead = beads.First(one => one.Key == key);
        var card = CoachBook.Card(CoachBook.PlaceOf(test, beads, bead, CoachBook.ZonesOf(test)[0]), Wording.English);
        var length = OneRod().Match(card.Pace!).Groups[1].Value;
        Assert.True(LengthReader.TryRead(length, LengthUnit.Inch, out var run, out _), card.Pace);
        Assert.InRange(run.Mm / 25.4, least, most);
    }

    /// <summary>The plan of the vertical cored-wire plate asks 9 to 17 in a minute of a wire whose core is no steel: off the usual 6 to 15 at its fast end.</summary>
    [Fact]
    public void A_plan_that_goes_faster_than_usual_says_so()
    {
        var test = TestLibrary.Shipped["P7"];
        var beads = test.Beads();
        var cards = beads.Select(bead => CoachBook.Card(CoachBook.PlaceOf(test, beads, bead, null), Wording.English)).ToList();
        Assert.All(
            cards,
            card => Assert.InRange(int.Parse(Every().Match(card.Pace!).Groups[1].ValueSpan, System.Globalization.CultureInfo.InvariantCulture), 3, 7)
        );
        Assert.Contains(cards, card => card.PaceOff is not null);
    }

    [Fact]
    public void The_shares_of_a_layer_follow_the_order_in_which_it_is_laid()
    {
        var test = TestLibrary.Shipped["P2"];
        var beads = test.Beads();
        string RoleAt(string key) => CoachBook.PlaceOf(test, beads, beads.First(one => one.Key == key), null).Role;
        Assert.Equal(["strip1", "strip2"], new[] { "root-1-1", "root-1-2" }.Select(RoleAt));
        Assert.Equal(["fillFirst", "fillMiddle", "fillLast"], new[] { "fill-2-1", "fill-2-2", "fill-2-3" }.Select(RoleAt));
        var cap = beads.Where(bead => bead.Stage == Stage.Cap).Select(bead => RoleAt(bead.Key)).ToList();
        Assert.Equal(["capFirst", "capMiddle", "capMiddle", "capLast"], cap);
    }

    /// <summary>Nothing that a student is told is left in English alone.</summary>
    [Fact]
    public void Everything_that_ships_is_said_in_every_language()
    {
        var sentences = CoachBook
            .Sentences.Concat(Procedures.Sentences)
            .Concat(CauseFinder.Rules.SelectMany(rule => new[] { rule.Cause, rule.Why, rule.DoNow, rule.Cure }))
            .Concat(Cautions.All.Select(rule => rule.Text))
            .Concat(Cautions.OtherShades.Select(shade => shade.Work))
            .Concat(TestLibrary.Shipped.Values.SelectMany(test => test.Cautions.Select(caution => caution.Text)))
            .Append(Cautions.Line)
            .ToList();
        Assert.All(Wording.All, words => Assert.All(sentences, sentence => Assert.True(words.Knows(sentence), $"{words.Name}: {sentence}")));
        Assert.True(Wording.All.Count > 1);
    }

    /// <summary>A number or a length that stands in the English sentence stands in the other too: a translation that says another size is dangerous.</summary>
    [Fact]
    public void A_sentence_keeps_its_numbers_in_every_language()
    {
        static IEnumerable<string> Numbers(string text) => Number().Matches(text).Select(match => match.Value.TrimEnd('.', ',')).Order();
        var checkedOnes = 0;
        foreach (var sentence in CoachBook.Sentences.Concat(Procedures.Sentences).Concat(Cautions.All.Select(rule => rule.Text)))
        {
            foreach (var words in Wording.All)
            {
                Assert.Equal(Numbers(sentence), Numbers(words.Say(sentence)));
                checkedOnes++;
            }
        }

        Assert.True(checkedOnes > 500);
    }

    [Fact]
    public void The_schools_own_words_come_first_and_what_it_did_not_translate_is_marked()
    {
        var sentence = CoachBook.Bases[0].Watch;
        var own = new Dictionary<string, SchoolWords> { [sentence] = new(new Dictionary<string, string> { ["en"] = "Keep the hole small" }) };
        Assert.Equal("Keep the hole small", Wording.English.With(own).Say(sentence));
        Assert.Equal("Keep the hole small [en]", Wording.In("es").With(own).Say(sentence));
        Assert.Equal("Never heard [en]", Wording.In("es").Say("Never heard"));
        Assert.Equal(sentence, Wording.In("xx").Say(sentence));
    }

    [GeneratedRegex(@"One rod makes ([\d /]+) in")]
    private static partial Regex OneRod();

    [GeneratedRegex(@"^1 in every (\d+) s$")]
    private static partial Regex Every();

    [GeneratedRegex(@"\d[\d/.,]*")]
    private static partial Regex Number();
}
