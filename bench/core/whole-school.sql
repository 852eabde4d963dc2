-- Makes a school of 60 students with a history on eight tests each: copies of what was closed on those tests, eighteen coupons apiece.
INSERT INTO Students (Id, Name, ClassGroupId, Hand, TargetTestId, Note, CreatedAt, SafetySignedAt, SafetySignedBy)
WITH RECURSIVE Numbers(N) AS (SELECT 1 UNION ALL SELECT N + 1 FROM Numbers WHERE N < 60)
SELECT printf('10000000-0000-7000-8000-%012X', N), 'Student ' || N, S.ClassGroupId, S.Hand, S.TargetTestId, NULL, S.CreatedAt, NULL, NULL
FROM Numbers
JOIN (SELECT * FROM Students LIMIT 1) S
WHERE N <= 60 - (SELECT COUNT(*) FROM Students);

CREATE TEMP TABLE Made AS
WITH RECURSIVE
  Numbers(N) AS (SELECT 0 UNION ALL SELECT N + 1 FROM Numbers WHERE N < 60 * 8 * 18 - 1),
  People AS (SELECT ROW_NUMBER() OVER (ORDER BY Id) - 1 AS N, Id FROM Students),
  Chosen AS (
    SELECT ROW_NUMBER() OVER (ORDER BY COUNT(*) DESC) - 1 AS N, TestId, COUNT(*) AS Closed
    FROM Coupons WHERE ClosedAt IS NOT NULL AND DrillId IS NULL GROUP BY TestId ORDER BY COUNT(*) DESC LIMIT 8
  ),
  Sources AS (
    SELECT ROW_NUMBER() OVER (PARTITION BY TestId ORDER BY Number) - 1 AS N, Id, TestId FROM Coupons WHERE ClosedAt IS NOT NULL AND DrillId IS NULL
  )
SELECT Numbers.N AS N, printf('20000000-0000-7000-8000-%012X', Numbers.N) AS Id, People.Id AS StudentId, Sources.Id AS SourceId
FROM Numbers
JOIN People ON People.N = Numbers.N % 60
JOIN Chosen ON Chosen.N = (Numbers.N / 60) % 8
JOIN Sources ON Sources.TestId = Chosen.TestId AND Sources.N = Numbers.N % Chosen.Closed;

INSERT INTO Coupons (Id, Number, Stamp, StudentId, TestId, TestVersion, DrillId, Variants, BoothId, AsTest, StartedAt, StartedBy, ClosedAt)
SELECT Made.Id, 200000 + Made.N, 'W' || Made.N, Made.StudentId, C.TestId, C.TestVersion, NULL, C.Variants, NULL, C.AsTest,
       C.StartedAt + 1000 * (Made.N / 480), C.StartedBy, C.ClosedAt + 1000 * (Made.N / 480)
FROM Made
JOIN Coupons C ON C.Id = Made.SourceId;

INSERT INTO Closings (Id, CouponId, Kind, Verdict, StageClean, Decides, Downgraded, ProgramVersion, HappenedAt, RecordedAt, RecordedBy, WithdrawnAt, WithdrawnBy, Facts)
SELECT Made.Id, Made.Id, L.Kind, L.Verdict, L.StageClean, L.Decides, L.Downgraded, L.ProgramVersion, L.RecordedAt + 1000 * (Made.N / 480), L.RecordedAt + 1000 * (Made.N / 480), L.RecordedBy, NULL, NULL, L.Facts
FROM Made
JOIN Closings L ON L.CouponId = Made.SourceId AND L.WithdrawnAt IS NULL;
