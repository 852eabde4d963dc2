using System.Globalization;
using Gradus.Core.Certification;
using Gradus.Data;

namespace Gradus.Server.Qualifications;

/// <summary>What a record is printed with beside itself.</summary>
/// <param name="Address">Where it is opened; the code on the paper says it.</param>
/// <param name="Signature">Null for a record from outside.</param>
/// <param name="WitnessSignature">As it was written on the tablet; null where it was not.</param>
public sealed record Printed(string CodeName, string Address, string? Signature, string? WitnessSignature, DateTimeOffset IssuedAt);

/// <summary>A record of qualification on paper.</summary>
public static class RecordPdf
{
    private const float Margin = 40;
    private const float Footer = 38;
    private const float Small = 7.5f;
    private const float Body = 9;
    private const float Line = 11.5f;

    /// <summary>The record as a PDF.</summary>
    public static byte[] Make(QualificationRecord record, Printed printed, PaperSize size)
    {
        // Once to know how many pages there are, once to say so.
        var (_, pages) = Draw(record, printed, size, 0);
        return Draw(record, printed, size, pages).File;
    }

    private static (byte[] File, int Pages) Draw(QualificationRecord record, Printed printed, PaperSize size, int pages)
    {
        using var paper = new PdfPaper(size, $"Welder qualification {record.Number}, {record.Welder.Name}", printed.IssuedAt);
        new Sheet(paper, record, printed, pages).Draw();
        return (paper.Finish(), paper.Page);
    }

    /// <summary>A day as paper says it: no order of numbers that could be read the other way round.</summary>
    public static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);

    private sealed class Sheet(PdfPaper paper, QualificationRecord record, Printed printed, int pages)
    {
        private float y;

        private float Right => paper.Width - Margin;
        private float Inside => paper.Width - (2 * Margin);

        public void Draw()
        {
            NextPage();
            Head();
            foreach (var row in record.Fields.Chunk(2))
            {
                Pairs(row);
            }

            foreach (var part in record.Parts)
            {
                Part(part);
            }

            Tests();
            Validity();
            Signatures();
            Foot();
        }

        private void NextPage()
        {
            if (paper.Page > 0)
            {
                Foot();
            }

            paper.NextPage();
            y = Margin;
            if (paper.Page > 1)
            {
                paper.Text($"No. {record.Number}, revision {record.Revision}: {record.Welder.Name}", Margin, y + Body, Body, bold: true);
                y += 2 * Line;
            }
        }

        private void Need(float height)
        {
            if (y + height > paper.Height - Footer - Line)
            {
                NextPage();
            }
        }

        private void Head()
        {
            const float Side = 74;
            paper.Text("Record of welder qualification", Margin, y + 15, 17, bold: true);
            paper.Text($"{printed.CodeName}, {record.Edition}", Margin, y + 30, Body + 1);
            paper.Text($"No. {record.Number}, revision {record.Revision}", Margin, y + 43, Body + 1, bold: true);
            paper.Code(printed.Address, Right - Side, y, Side);
            y += 58;
            foreach (var line in PdfPaper.Lines(record.Welder.Name, Inside - Side - 12, 20, bold: true))
            {
                paper.Text(line, Margin, y + 16, 20, bold: true);
                y += 23;
            }

            y += 6;
            Pair("Certified by the organization", record.School);
            Pair("Test", record.Title);
            Pair("Made as", record.Variants.Count == 0 ? "first described" : string.Join("; ", record.Variants.Values));
            if (record.Designation is { } designation)
            {
                Pair("Designation", designation);
            }

            Pair("Procedure (WPS)", record.Procedure.Length > 0 ? record.Procedure : "not stated");
            Pair("Tested on", Day(record.TestedOn));
            Pair("Mark of the coupon", record.Welder.Mark ?? "none");
            Pair("Welder ID", record.Welder.Id.ToString());
            if (record.Because is { } because)
            {
                Pair("Corrected", because);
            }

            y += 4;
            paper.Line(Margin, y, Right, y);
            y += 6;
        }

        // A label and what stands against it, over the whole width.
        private void Pair(string label, string text)
        {
            const float Labels = 130;
            var lines = PdfPaper.Lines(text, Inside - Labels, Body);
            Need(lines.Count * Line);
            paper.Text(label, Margin, y + Body, Body, gray: 0.35f);
            foreach (var line in lines)
            {
                paper.Text(line, Margin + Labels, y + Body, Body);
                y += Line;
            }
        }

        private void Pairs(RecordField[] row)
        {
            var half = Inside / 2;
            var cells = row.Select(one => (one.Label, Lines: PdfPaper.Lines(one.Actual ?? "not stated", (half / 2) - 8, Body))).ToList();
            var labels = cells.ConvertAll(cell => PdfPaper.Lines(cell.Label, (half / 2) - 6, Body));
            var height = Math.Max(cells.Max(cell => cell.Lines.Count), labels.Max(lines => lines.Count)) * Line;
            Need(height);
            foreach (var (index, cell) in cells.Index())
            {
                var x = Margin + (index * half);
                Column(labels[index], x, gray: 0.35f);
                Column(cell.Lines, x + (half / 2));
            }

            y += height;
        }

        private void Column(IReadOnlyList<string> lines, float x, bool bold = false, float gray = 0, float textSize = Body)
        {
            foreach (var (index, line) in lines.Index())
            {
                paper.Text(line, x, y + Body + (index * Line), textSize, bold, gray);
            }
        }

        private void Part(RecordPart part)
        {
            Need(5 * Line);
            y += 6;
            paper.Box(Margin, y, Inside, Line + 4, 0.92f);
            paper.Text(part.Name, Margin + 4, y + Body + 2, Body + 1, bold: true);
            y += Line + 6;
            var (actual, qualified) = (Margin + (Inside * 0.36f), Margin + (Inside * 0.62f));
            Row("Variable", "Actual values", "Range qualified", actual, qualified, bold: true);
            foreach (var field in part.Fields)
            {
                Row(field.Label, field.Actual ?? "", field.Qualified ?? "", actual, qualified);
            }
        }

        private void Row(string first, string second, string third, float at, float then, bool bold = false)
        {
            var (one, two, three) = (
                PdfPaper.Lines(first, at - Margin - 8, Body, bold),
                PdfPaper.Lines(second, then - at - 8, Body, bold),
                PdfPaper.Lines(third, Right - then, Body, bold)
            );
            var height = Math.Max(one.Count, Math.Max(two.Count, three.Count)) * Line;
            Need(height + 2);
            Column(one, Margin, bold, bold ? 0 : 0.35f);
            Column(two, at, bold);
            Column(three, then, bold);
            y += height;
            paper.Line(Margin, y + 1, Right, y + 1, 0.3f, 0.85f);
            y += 2;
        }

        private void Tests()
        {
            Need(4 * Line);
            y += 6;
            paper.Box(Margin, y, Inside, Line + 4, 0.92f);
            paper.Text("Tests and results", Margin + 4, y + Body + 2, Body + 1, bold: true);
            y += Line + 6;
            var (result, report) = (Margin + (Inside * 0.36f), Margin + (Inside * 0.62f));
            Row("Test", "Result", "Report, judged by", result, report, bold: true);
            foreach (var test in record.Tests)
            {
                Row(
                    test.Name,
                    test.Says is { Length: > 0 } says ? $"{test.Result}: {says}" : test.Result,
                    string.Join(", ", new[] { test.Report is null ? null : $"report {test.Report}", test.By }.Where(text => text is not null)),
                    result,
                    report
                );
            }
        }

        private void Validity()
        {
            y += 6;
            Pair("Process used again by", Day(record.Validity.UseBy));
            if (record.Validity.RenewBy is { } by)
            {
                Pair("Renewed by", $"{Day(by)}, route {record.Validity.Route}");
            }
            else if (record.Validity.Route is { } route)
            {
                Pair("Route of renewal", route);
            }

            Pair("Rule", record.Validity.Rule);
        }

        private void Signatures()
        {
            Need(7 * Line);
            y += 10;
            var third = Inside / 3;
            var most = 1;
            (string Label, string Name, string? Path)[] who =
            [
                ("Witnessed by", record.Witness ?? "not stated", printed.WitnessSignature),
                ("Judged by", record.Evaluator, null),
                ("Certified by", $"{record.CertifiedBy}, {Day(record.CertifiedOn)}", null),
            ];
            foreach (var (index, one) in who.Index())
            {
                var x = Margin + (index * third);
                if (one.Path is { } path)
                {
                    paper.Signature(path, x, y, third - 12, 34);
                }

                paper.Line(x, y + 36, x + third - 12, y + 36, 0.6f, 0.3f);
                paper.Text(one.Label, x, y + 36 + Line, Small, gray: 0.35f);
                foreach (var (row, line) in PdfPaper.Lines(one.Name, third - 12, Body).Index())
                {
                    most = Math.Max(most, row + 1);
                    paper.Text(line, x, y + 36 + ((2 + row) * Line), Body);
                }
            }

            y += 36 + ((2 + most) * Line);
            if (record.Code == "iso-9606-1")
            {
                Need(9 * Line);
                Row(
                    "Confirmed for six months (9.2): date",
                    "Signature",
                    "Position or title",
                    Margin + (Inside * 0.36f),
                    Margin + (Inside * 0.62f),
                    bold: true
                );
                for (var row = 0; row < 4; row++)
                {
                    y += 1.4f * Line;
                    paper.Line(Margin, y, Right, y, 0.3f, 0.6f);
                }

                y += Line;
            }

            if (printed.Signature is { } signature)
            {
                Need(20);
                foreach (
                    var line in PdfPaper.Lines(
                        $"Signed by the school's key (ECDSA P-256); the file of the record checks it. {signature}",
                        Inside,
                        6.5f
                    )
                )
                {
                    paper.Text(line, Margin, y + 6.5f, 6.5f, gray: 0.35f);
                    y += 8;
                }
            }
        }

        private void Foot()
        {
            var at = paper.Height - Footer;
            foreach (var (index, line) in PdfPaper.Lines(record.Caution, Inside - 70, Small).Index())
            {
                paper.Text(line, Margin, at + (index * 9), Small, gray: 0.35f);
            }

            var page = $"Page {paper.Page} of {pages}";
            paper.Text(page, Right - PdfPaper.WidthOf(page, Small), at, Small, gray: 0.35f);
        }
    }
}
