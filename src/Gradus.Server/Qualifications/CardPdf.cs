using Gradus.Core.Certification;

namespace Gradus.Server.Qualifications;

/// <summary>A card to carry.</summary>
public sealed record Card(QualificationRecord Record, string CodeName, string Address, DateOnly EndsOn);

/// <summary>Cards for the wallet, eight to a page, with lines to cut along.</summary>
public static class CardPdf
{
    /// <summary>Size of a card, ISO/IEC 7810 ID-1, in points.</summary>
    private const float CardWidth = 242.6f;
    private const float CardHeight = 153;
    private const int Columns = 2;
    private const int Rows = 4;

    /// <summary>Eight to a page.</summary>
    public const int OnPage = Columns * Rows;

    public static byte[] Make(IReadOnlyList<Card> cards, PaperSize size, DateTimeOffset made)
    {
        using var paper = new PdfPaper(size, "Qualification cards", made);
        foreach (var page in cards.Chunk(OnPage))
        {
            paper.NextPage();
            var (left, top) = ((paper.Width - (Columns * CardWidth)) / 2, (paper.Height - (Rows * CardHeight)) / 2);
            foreach (var (index, card) in page.Index())
            {
                One(paper, card, left + (index % Columns * CardWidth), top + (index / Columns * CardHeight));
            }
        }

        return paper.Finish();
    }

    private static void One(PdfPaper paper, Card card, float x, float y)
    {
        const float Inset = 9;
        const float Side = 58;
        var record = card.Record;
        paper.Line(x, y, x + CardWidth, y, 0.3f);
        paper.Line(x, y + CardHeight, x + CardWidth, y + CardHeight, 0.3f);
        paper.Line(x, y, x, y + CardHeight, 0.3f);
        paper.Line(x + CardWidth, y, x + CardWidth, y + CardHeight, 0.3f);
        var room = CardWidth - (2 * Inset);
        var at = y + Inset + 7;
        paper.Text(PdfPaper.Lines(record.School, room - 60, 7)[0], x + Inset, at, 7, gray: 0.35f);
        var number = $"No. {record.Number}.{record.Revision}";
        paper.Text(number, x + CardWidth - Inset - PdfPaper.WidthOf(number, 7, bold: true), at, 7, bold: true);
        at += 16;
        foreach (var line in PdfPaper.Lines(record.Welder.Name, room, 13, bold: true).Take(2))
        {
            paper.Text(line, x + Inset, at, 13, bold: true);
            at += 14;
        }

        paper.Code(card.Address, x + CardWidth - Inset - Side, y + CardHeight - Inset - Side, Side);
        room -= Side + 4;
        string[] said =
        [
            $"{card.CodeName}, {record.Edition}",
            $"{string.Join(", ", record.Processes)}; {string.Join(", ", record.Parts.SelectMany(part => part.Fields).Where(one => one.Key == "filler").Select(one => one.Actual).Distinct())}",
            .. record
                .Parts.SelectMany(part => part.Fields)
                .Where(one => one.Key is "thickness" or "positions")
                .Select(one => $"{one.Label}: {one.Qualified}")
                .Distinct(),
        ];
        var end = y + CardHeight - Inset - 14;
        foreach (var line in said.SelectMany(text => PdfPaper.Lines(text, room, 6.5f)))
        {
            // What does not fit a card stands on the record.
            if (at > end)
            {
                break;
            }

            paper.Text(line, x + Inset, at, 6.5f);
            at += 8;
        }

        paper.Text($"Tested {RecordPdf.Day(record.TestedOn)}; holds until", x + Inset, y + CardHeight - Inset - 9, 6.5f, gray: 0.35f);
        paper.Text($"{RecordPdf.Day(card.EndsOn)} unless used again", x + Inset, y + CardHeight - Inset, 7, bold: true);
    }
}
