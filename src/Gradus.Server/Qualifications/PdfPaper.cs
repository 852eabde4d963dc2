using System.Globalization;
using System.Reflection;
using SkiaSharp;
using SkiaSharp.HarfBuzz;

namespace Gradus.Server.Qualifications;

/// <summary>Sizes of paper.</summary>
public enum PaperSize
{
    A4,
    Letter,
}

/// <summary>
/// Pages of a PDF, drawn from the top down in points. Text is shaped, and each stretch of it set in the first face that has all of its letters: names in
/// Latin, Greek and Cyrillic come out whole. The faces are embedded as far as they are used.
/// </summary>
public sealed class PdfPaper : IDisposable
{
    private static readonly SKTypeface[] Regular = [Face("text-regular"), Face("wide-regular")];
    private static readonly SKTypeface[] Bold = [Face("text-bold"), Face("wide-bold")];

    private readonly MemoryStream stream = new();
    private readonly SKDocument document;
    private readonly SKPaint ink = new() { Color = SKColors.Black, IsAntialias = true };
    private SKCanvas? canvas;

    public PdfPaper(PaperSize size, string title, DateTimeOffset made)
    {
        (Width, Height) = size == PaperSize.A4 ? (595.28f, 841.89f) : (612f, 792f);
        document = SKDocument.CreatePdf(
            stream,
            new SKDocumentPdfMetadata
            {
                Title = title,
                Creator = "Gradus",
                Creation = made.UtcDateTime,
                Modified = made.UtcDateTime,
                RasterDpi = SKDocumentPdfMetadata.DefaultRasterDpi,
                EncodingQuality = SKDocumentPdfMetadata.DefaultEncodingQuality,
            }
        );
    }

    public float Width { get; }
    public float Height { get; }

    /// <summary>The number of the page that is being drawn.</summary>
    public int Page { get; private set; }

    /// <summary>Begins a page; the one before is done.</summary>
    public void NextPage()
    {
        if (canvas is not null)
        {
            document.EndPage();
        }

        canvas = document.BeginPage(Width, Height);
        Page++;
    }

    /// <summary>The finished file.</summary>
    public byte[] Finish()
    {
        document.EndPage();
        document.Close();
        return stream.ToArray();
    }

    /// <summary>Sets one line; its baseline lies at <paramref name="y"/>.</summary>
    public void Text(string text, float x, float y, float size, bool bold = false, float gray = 0)
    {
        ink.Color = Gray(gray);
        ink.Style = SKPaintStyle.Fill;
        foreach (var (face, part) in Runs(text, bold))
        {
            using var font = new SKFont(face, size) { Subpixel = true };
            using var shaper = new SKShaper(face);
            canvas!.DrawShapedText(shaper, part, x, y, SKTextAlign.Left, font, ink);
            x += shaper.Shape(part, font).Width;
        }
    }

    /// <summary>How wide a line is.</summary>
    public static float WidthOf(string text, float size, bool bold = false)
    {
        var width = 0f;
        foreach (var (face, part) in Runs(text, bold))
        {
            using var font = new SKFont(face, size) { Subpixel = true };
            using var shaper = new SKShaper(face);
            width += shaper.Shape(part, font).Width;
        }

        return width;
    }

    /// <summary>Breaks a text into lines that fit a width, between words; a word that is too long by itself is broken.</summary>
    public static IReadOnlyList<string> Lines(string text, float width, float size, bool bold = false)
    {
        List<string> lines = [];
        var line = "";
        foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries).SelectMany(word => Fitting(word, width, size, bold)))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && WidthOf(longer, size, bold) > width)
            {
                lines.Add(line);
                line = word;
            }
            else
            {
                line = longer;
            }
        }

        lines.Add(line);
        return lines;
    }

    private static IEnumerable<string> Fitting(string word, float width, float size, bool bold)
    {
        while (word.Length > 1 && WidthOf(word, size, bold) > width)
        {
            var fits = word.Length - 1;
            while (fits > 1 && WidthOf(word[..fits], size, bold) > width)
            {
                fits--;
            }

            yield return word[..fits];
            word = word[fits..];
        }

        yield return word;
    }

    /// <summary>Draws a thin line.</summary>
    public void Line(float fromX, float fromY, float toX, float toY, float thick = 0.6f, float gray = 0.6f)
    {
        ink.Color = Gray(gray);
        ink.Style = SKPaintStyle.Stroke;
        ink.StrokeWidth = thick;
        canvas!.DrawLine(fromX, fromY, toX, toY, ink);
    }

    /// <summary>Fills a box.</summary>
    public void Box(float x, float y, float width, float height, float gray)
    {
        ink.Color = Gray(gray);
        ink.Style = SKPaintStyle.Fill;
        canvas!.DrawRect(x, y, width, height, ink);
    }

    /// <summary>Draws a signature that was written on a tablet into a box.</summary>
    /// <param name="path">As an SVG path in a field of 600 by 200.</param>
    public void Signature(string path, float x, float y, float width, float height)
    {
        using var drawn = SKPath.ParseSvgPathData(path);
        if (drawn is null)
        {
            return;
        }

        ink.Color = SKColors.Black;
        ink.Style = SKPaintStyle.Stroke;
        ink.StrokeWidth = 3;
        canvas!.Save();
        canvas.Translate(x, y);
        canvas.Scale(Math.Min(width / 600, height / 200));
        canvas.DrawPath(drawn, ink);
        canvas.Restore();
    }

    /// <summary>Draws a code that a tablet reads, with the quiet zone around it.</summary>
    public void Code(string text, float x, float y, float side)
    {
        using var generator = new QRCoder.QRCodeGenerator();
        using var data = generator.CreateQrCode(text, QRCoder.QRCodeGenerator.ECCLevel.M);
        var rows = data.ModuleMatrix;
        var unit = side / rows.Count;
        ink.Color = SKColors.Black;
        ink.Style = SKPaintStyle.Fill;
        for (var row = 0; row < rows.Count; row++)
        {
            for (var column = 0; column < rows[row].Count; column++)
            {
                if (rows[row][column])
                {
                    canvas!.DrawRect(x + (column * unit), y + (row * unit), unit + 0.05f, unit + 0.05f, ink);
                }
            }
        }
    }

    public void Dispose()
    {
        ink.Dispose();
        document.Dispose();
        stream.Dispose();
    }

    // The text in stretches of one face; a letter that neither face has stays in the last.
    private static List<(SKTypeface Face, string Text)> Runs(string text, bool bold)
    {
        var faces = bold ? Bold : Regular;
        List<(SKTypeface Face, string Text)> runs = [];
        var letters = StringInfo.GetTextElementEnumerator(text.Normalize());
        while (letters.MoveNext())
        {
            var letter = letters.GetTextElement();
            var face = Array.Find(faces, one => one.ContainsGlyphs(letter)) ?? faces[^1];
            if (runs is [.., var last] && (last.Face == face || string.IsNullOrWhiteSpace(letter)))
            {
                runs[^1] = (last.Face, last.Text + letter);
            }
            else
            {
                runs.Add((face, letter));
            }
        }

        return runs;
    }

    private static SKColor Gray(float gray)
    {
        var level = (byte)Math.Round(Math.Clamp(gray, 0, 1) * 255);
        return new SKColor(level, level, level);
    }

    private static SKTypeface Face(string name)
    {
        using var stream =
            Assembly.GetExecutingAssembly().GetManifestResourceStream($"fonts/{name}.ttf")
            ?? throw new InvalidOperationException($"The face {name} is missing.");
        return SKTypeface.FromStream(stream);
    }
}
