-- Makes a large school out of the coupon that was closed first: copies of it and of its closing over ten years, shared out over all students.
WITH RECURSIVE
  Numbers(N) AS (SELECT 1 UNION ALL SELECT N + 1 FROM Numbers WHERE N < $coupons),
  People AS (SELECT ROW_NUMBER() OVER (ORDER BY Id) - 1 AS N, Id FROM Students)
INSERT INTO Coupons (Id, Number, Stamp, StudentId, TestId, TestVersion, DrillId, Variants, BoothId, AsTest, StartedAt, StartedBy, ClosedAt)
SELECT printf('00000000-0000-7000-8000-%012X', Numbers.N), 10000 + Numbers.N, 'S' || Numbers.N, People.Id, C.TestId, C.TestVersion, NULL, C.Variants, NULL, 1,
       C.StartedAt - 3120000 * Numbers.N, C.StartedBy, C.StartedAt - 3120000 * Numbers.N + 1000
FROM Numbers
JOIN People ON People.N = Numbers.N % (SELECT COUNT(*) FROM Students)
JOIN (SELECT * FROM Coupons WHERE ClosedAt IS NOT NULL AND DrillId IS NULL ORDER BY Number LIMIT 1) C;

INSERT INTO Closings (Id, CouponId, Kind, Verdict, StageClean, Decides, Downgraded, ProgramVersion, HappenedAt, RecordedAt, RecordedBy, WithdrawnAt, WithdrawnBy)
SELECT Coupons.Id, Coupons.Id, L.Kind, L.Verdict, L.StageClean, L.Decides, 0, L.ProgramVersion, Coupons.ClosedAt, Coupons.ClosedAt, L.RecordedBy, NULL, NULL
FROM Coupons
JOIN (
  SELECT Closings.* FROM Closings JOIN Coupons ON Coupons.Id = Closings.CouponId WHERE DrillId IS NULL AND Number <= 10000 ORDER BY Number LIMIT 1
) L
WHERE Coupons.Id LIKE '00000000-0000-7000-8000-%';
