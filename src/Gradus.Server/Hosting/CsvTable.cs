using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.Hosting;

/// <summary>Tables that go out. What a spreadsheet would take for a formula is escaped.</summary>
public static class CsvTable
{
    private static readonly CsvConfiguration Csv = new(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape };

    /// <summary>A table as a file.</summary>
    public static FileContentHttpResult File(string name, string[] columns, IEnumerable<object?[]> rows)
    {
        var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Csv))
        {
            foreach (var line in rows.Prepend(columns))
            {
                foreach (var field in line)
                {
                    csv.WriteField(field);
                }

                csv.NextRecord();
            }
        }

        return TypedResults.File(Encoding.UTF8.GetBytes(text.ToString()), "text/csv; charset=utf-8", name);
    }
}
