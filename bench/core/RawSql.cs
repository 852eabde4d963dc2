using System.Diagnostics;
using System.Globalization;
using Microsoft.Data.Sqlite;

namespace Gradus.Benchmarks;

/// <summary>The rows that a page reads, read by plain SQL on one open connection: what the file itself costs, beside which the server is measured.</summary>
internal static class RawSql
{
    private const int Runs = 200;

    private static readonly string[] OfCoupon =
    [
        "SELECT C.*, S.*, B.* FROM Coupons C JOIN Students S ON S.Id = C.StudentId LEFT JOIN Booths B ON B.Id = C.BoothId WHERE C.Id = $coupon",
        "SELECT * FROM FitUps WHERE CouponId = $coupon",
        "SELECT * FROM Passes WHERE CouponId = $coupon",
        "SELECT * FROM Findings WHERE CouponId = $coupon",
        "SELECT * FROM Notes WHERE CouponId = $coupon",
        "SELECT * FROM Events WHERE CouponId = $coupon",
        "SELECT * FROM Photos WHERE CouponId = $coupon",
        "SELECT * FROM Closings WHERE CouponId = $coupon",
        "SELECT Id, Name FROM People",
        "SELECT P.* FROM Coupons C JOIN Passes P ON P.CouponId = C.Id WHERE C.StudentId = (SELECT StudentId FROM Coupons WHERE Id = $coupon) AND C.TestId = (SELECT TestId FROM Coupons WHERE Id = $coupon) AND C.StartedAt >= $since AND P.WithdrawnAt IS NULL",
        "SELECT C.Id, L.StageClean FROM Coupons C JOIN Closings L ON L.CouponId = C.Id WHERE C.StudentId = (SELECT StudentId FROM Coupons WHERE Id = $coupon) AND C.TestId = (SELECT TestId FROM Coupons WHERE Id = $coupon) AND C.StartedAt >= $since AND C.ClosedAt IS NOT NULL AND L.WithdrawnAt IS NULL",
        "SELECT * FROM Readiness WHERE StudentId = (SELECT StudentId FROM Coupons WHERE Id = $coupon) AND TestId = (SELECT TestId FROM Coupons WHERE Id = $coupon)",
    ];

    private static readonly string[] OfFloor =
    [
        "SELECT * FROM Students WHERE LeftAt IS NULL",
        "SELECT * FROM ClassGroups",
        "SELECT * FROM Booths",
        "SELECT * FROM Coupons WHERE ClosedAt IS NULL",
        .. new[] { "FitUps", "Passes", "Findings", "Events", "Closings" }.Select(table =>
            $"SELECT * FROM {table} WHERE CouponId IN (SELECT Id FROM Coupons WHERE ClosedAt IS NULL)"
        ),
        "SELECT StudentId, MAX(ClosedAt) FROM Coupons WHERE ClosedAt IS NOT NULL GROUP BY StudentId",
        "SELECT R.StudentId, R.TestId, R.Stale, R.ConstantsVersion, R.Coupons, R.CleanCoupons, R.StandingDay, R.Standing FROM Readiness R JOIN Students S ON S.Id = R.StudentId AND S.TargetTestId = R.TestId",
        "SELECT * FROM Decisions",
        "SELECT * FROM PlanSetups ORDER BY SavedAt DESC LIMIT 1",
        "SELECT * FROM WeekPlans ORDER BY AcceptedAt DESC LIMIT 1",
        "SELECT P.* FROM Coupons C JOIN Passes P ON P.CouponId = C.Id WHERE C.StartedAt >= $since AND (C.StudentId, C.TestId) IN (SELECT StudentId, TestId FROM Coupons WHERE ClosedAt IS NULL) AND P.WithdrawnAt IS NULL",
    ];

    public static void Run(string file, string coupon)
    {
        using var connection = new SqliteConnection($"Data Source={file}");
        connection.Open();
        using (var setup = connection.CreateCommand())
        {
            setup.CommandText = "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;";
            setup.ExecuteNonQuery();
        }

        Tell("coupon", Measure(() => ReadAll(connection, OfCoupon, coupon)));
        Tell("floor", Measure(() => ReadAll(connection, OfFloor, coupon)));
        Tell("write", Measure(() => Write(connection, coupon)));
    }

    private static void Tell(string what, List<double> times) =>
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"{what} {times[times.Count / 2]:0.00} {times[(int)(times.Count * 0.95)]:0.00}")
        );

    private static List<double> Measure(Action act)
    {
        for (var warm = 0; warm < 20; warm++)
        {
            act();
        }

        var times = new List<double>();
        for (var run = 0; run < Runs; run++)
        {
            var began = Stopwatch.GetTimestamp();
            act();
            times.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
        }

        times.Sort();
        return times;
    }

    private static void ReadAll(SqliteConnection connection, string[] queries, string coupon)
    {
        foreach (var sql in queries)
        {
            using var command = Command(connection, sql, coupon);
            using var reader = command.ExecuteReader();
            var row = new object[reader.FieldCount];
            while (reader.Read())
            {
                reader.GetValues(row);
            }
        }
    }

    private static void Write(SqliteConnection connection, string coupon)
    {
        using var transaction = connection.BeginTransaction();
        using var command = Command(
            connection,
            "INSERT INTO Notes (Id, CouponId, Text, HappenedAt, RecordedAt, RecordedBy) SELECT upper(hex(randomblob(16))), $coupon, 'n', $since, $since, StartedBy FROM Coupons WHERE Id = $coupon",
            coupon
        );
        command.Transaction = transaction;
        command.ExecuteNonQuery();
        transaction.Commit();
    }

#pragma warning disable CA2100 // The queries of this file.
    private static SqliteCommand Command(SqliteConnection connection, string sql, string coupon)
    {
        var command = connection.CreateCommand();
        command.CommandText = sql;
        if (sql.Contains("$coupon", StringComparison.Ordinal))
        {
            command.Parameters.AddWithValue("$coupon", coupon.ToUpperInvariant());
        }

        if (sql.Contains("$since", StringComparison.Ordinal))
        {
            command.Parameters.AddWithValue("$since", DateTimeOffset.UtcNow.AddDays(-90).ToUnixTimeMilliseconds());
        }

        return command;
    }
#pragma warning restore CA2100
}
