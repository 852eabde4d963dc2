using Gradus.Core.Certification;

namespace Gradus.Server.Qualifications;

/// <summary>The sheet of a person: what they hold, what keeps it alive, and lines to sign by hand.</summary>
public static class LogPdf
{
    private const float Margin = 40;
    private const float Body = 9;
    private const float Line = 13;
    private const int HandLines = 6;

    public static byte[] Make(HoldsView view, string school, Func<string, string> codeName, PaperSize size, DateOnly today, DateTimeOffset made)
    {
        using var paper = new PdfPaper(size, $"Use of processes, {view.StudentName}", made);
        var y = 0f;
        void NextPage()
        {
            paper.NextPage();
            y = Margin;
        }

        void Row(string[] cells, float[] shares, bool bold = false)
        {
            var room = paper.Width - (2 * Margin);
            var widths = shares.Select(share => share * room).ToArray();
            var lines = cells.Zip(widths, (cell, width) => PdfPaper.Lines(cell, width - 6, Body, bold)).ToArray();
            var height = (lines.Max(one => one.Count) * (Line - 2)) + 4;
            if (y + height > paper.Height - Margin)
            {
                NextPage();
            }

            var x = Margin;
            foreach (var (cell, width) in lines.Zip(widths))
            {
                for (var index = 0; index < cell.Count; index++)
                {
                    paper.Text(cell[index], x, y + Body + (index * (Line - 2)), Body, bold);
                }

                x += width;
            }

            y += height;
            paper.Line(Margin, y, paper.Width - Margin, y, 0.3f, 0.8f);
            y += 2;
        }

        NextPage();
        paper.Text("Use of welding processes", Margin, y + 15, 17, bold: true);
        paper.Text($"{school}, as of {RecordPdf.Day(today)}", Margin, y + 30, Body + 1);
        y += 44;
        foreach (var line in PdfPaper.Lines(view.StudentName, paper.Width - (2 * Margin), 18, bold: true))
        {
            paper.Text(line, Margin, y + 14, 18, bold: true);
            y += 21;
        }

        y += 8;
        float[] held = [0.1f, 0.24f, 0.1f, 0.24f, 0.16f, 0.16f];
        Row(["No.", "Code", "Process", "Positions tested", "Tested", "Holds until"], held, bold: true);
        foreach (var one in view.Held)
        {
            Row(
                [
                    $"{one.Number}.{one.Revision}",
                    codeName(one.Code),
                    one.Process,
                    string.Join(", ", one.Positions),
                    RecordPdf.Day(one.QualifiedOn),
                    one.Keeping.Kind == HoldKind.Ended ? $"ended {RecordPdf.Day(one.Keeping.EndsOn)}" : RecordPdf.Day(one.Keeping.EndsOn),
                ],
                held
            );
        }

        y += 12;
        float[] uses = [0.14f, 0.1f, 0.38f, 0.16f, 0.22f];
        Row(["Date", "Process", "Coupon, job or weld", "Keeps No.", "Signed by"], uses, bold: true);
        foreach (var one in view.Proofs)
        {
            Row([RecordPdf.Day(one.Day), one.Process, one.Says, one.Keeps.Count == 0 ? "none" : string.Join(", ", one.Keeps), one.SignedBy], uses);
        }

        for (var index = 0; index < HandLines; index++)
        {
            y += 8;
            Row(["", "", "", "", ""], uses);
        }

        y += 8;
        foreach (var line in PdfPaper.Lines(RecordMaker.Caution, paper.Width - (2 * Margin), 7.5f))
        {
            paper.Text(line, Margin, y + 7.5f, 7.5f, gray: 0.35f);
            y += 9;
        }

        return paper.Finish();
    }
}
