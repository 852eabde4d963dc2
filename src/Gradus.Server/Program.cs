using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Threading.RateLimiting;
using FluentValidation;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server;
using Gradus.Server.Accounts;
using Gradus.Server.Coaching;
using Gradus.Server.Coupons;
using Gradus.Server.Decisions;
using Gradus.Server.Demo;
using Gradus.Server.Floor;
using Gradus.Server.Hosting;
using Gradus.Server.Instruments;
using Gradus.Server.Learning;
using Gradus.Server.Library;
using Gradus.Server.Network;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Search;
using Gradus.Server.ShopMath;
using Gradus.Server.Sittings;
using Gradus.Server.Students;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

Privacy.KeepToOwner();
if (HealthCommand.IsAsked(args))
{
    return await HealthCommand.Run(args);
}

if (BackupCommands.IsAsked(args))
{
    return BackupCommands.Run(args);
}

if (ArchiveCommands.IsAsked(args))
{
    return ArchiveCommands.Run(args);
}

if (VerdictCommand.IsAsked(args))
{
    return await VerdictCommand.Run();
}

if (CertificateCommand.IsAsked(args))
{
    return CertificateCommand.Run();
}

if (VerifyCommand.IsAsked(args))
{
    return VerifyCommand.Run(args);
}

if (PeopleCommand.IsAsked(args))
{
    return await PeopleCommand.Run(args);
}

// What ships is read, and the routes are made, while the database is opened: each takes long, and none waits for another.
var shipped = Task.Run(() => TestLibrary.Shipped.Count + AcceptanceProfiles.Shipped.Count);
var builder = WebApplication.CreateBuilder(args);
var options = GradusOptions.From(builder.Configuration);

// The OpenAPI document is made at build by starting this program without a database.
var isDocumentRun = Assembly.GetEntryAssembly()?.GetName().Name == "GetDocument.Insider";

builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Limits.MaxRequestBodySize = Limits.BodyBytes;
    if (!isDocumentRun)
    {
        ShopNetwork.Listen(kestrel, options);
    }
});
if (builder.Configuration["urls"] is null && options.HttpsPort is null)
{
    builder.WebHost.UseUrls($"http://{options.Host}:{options.Port}");
}

if (!isDocumentRun)
{
    builder.AddLogs(options);
}

builder.AddMetrics(options);
builder.Services.AddSystemd();
builder.Services.AddSingleton(services => GradusOptions.From(services.GetRequiredService<IConfiguration>()));
builder.Services.AddSingleton(TimeProvider.System);
builder.Services.AddSingleton<FloorFeed>().AddHostedService(services => services.GetRequiredService<FloorFeed>()).AddSingleton<FloorChanges>();
builder.Services.AddDbContext<GradusContext>(
    (services, db) =>
        db.UseGradusFile(services.GetRequiredService<GradusOptions>().DatabaseFile).AddInterceptors(services.GetRequiredService<FloorChanges>())
);
builder.Services.AddSingleton<Storage>().AddSingleton<WriteGate>().AddScoped<Writes>();
builder.Services.AddSingleton<ErasureList>();
builder.Services.AddSingleton<SchoolClock>().AddSingleton<AuthorTickets>();
builder.Services.AddSingleton<PhotoMaker>().AddSingleton<PhotoStore>().AddSingleton<RecordSigner>();
builder.Services.AddSingleton<TodaysReview>().AddHostedService(services => services.GetRequiredService<TodaysReview>());
builder.Services.AddHttpContextAccessor();
builder.Services.AddSingleton<SchoolLibrary>().AddSingleton<FindingCounts>().AddSingleton<SchoolSentences>();
builder
    .Services.AddScoped<FollowUp>()
    .AddScoped<CouponRecorder>()
    .AddScoped<CouponReader>()
    .AddScoped<VerdictReview>()
    .AddScoped<TodaysBook>()
    .AddScoped<EvidenceReader>()
    .AddScoped<ReadinessBook>()
    .AddScoped<ReadyReader>()
    .AddScoped<ReachedReader>()
    .AddScoped<ResultBook>()
    .AddScoped<StudentReader>()
    .AddScoped<Erasure>()
    .AddScoped<Keeping>()
    .AddScoped<DecisionBook>()
    .AddScoped<GivenFiles>()
    .AddScoped<HoldsReader>()
    .AddScoped<CertificateBook>()
    .AddScoped<BoardReader>()
    .AddScoped<SetupBook>()
    .AddScoped<WorkLog>()
    .AddScoped<PracticeBook>()
    .AddScoped<WeekDone>()
    .AddScoped<StockKinds>()
    .AddScoped<BoothCards>()
    .AddScoped<StockBook>()
    .AddScoped<WeekBuilder>()
    .AddScoped<CutBook>()
    .AddScoped<SittingBook>()
    .AddScoped<SittingReader>()
    .AddScoped<FloorReader>()
    .AddScoped<Speaker>()
    .AddScoped<CoachReader>()
    .AddScoped<DeviceBook>()
    .AddScoped<LabBook>()
    .AddScoped<TraceBook>()
    .AddScoped<TraceReader>()
    .AddScoped<Demonstration>()
    .AddScoped<DemoSchool>();
builder.Services.AddSingleton<ReadinessRenewal>().AddHostedService(services => services.GetRequiredService<ReadinessRenewal>());
builder.Services.AddSingleton<HeavyWork>();
builder.Services.AddSingleton<DeviceKeys>().AddSingleton<TraceFiles>();
builder.Services.AddSingleton<Inflow>().AddHostedService(services => services.GetRequiredService<Inflow>());
builder.Services.AddSingleton<ClockWatch>().AddHostedService(services => services.GetRequiredService<ClockWatch>());
builder.Services.AddSingleton<NightlyBackup>().AddHostedService(services => services.GetRequiredService<NightlyBackup>());
builder.Services.AddHostedService<KeepingTurn>();
builder.Services.AddSingleton<WeekJobs>().AddSingleton<ModelInUse>().AddSingleton<ModelFitting>();
builder.Services.AddSingleton<SessionBook>().AddSingleton<PinBrake>().AddScoped<PeopleBook>().AddScoped<PinCheck>().AddScoped<Tablets>();
builder
    .Services.AddIdentityCore<Person>(identity =>
        identity.Password = new PasswordOptions
        {
            // What a PIN is, PinRules says.
            RequiredLength = PinRules.Shortest,
            RequireDigit = true,
            RequireLowercase = false,
            RequireUppercase = false,
            RequireNonAlphanumeric = false,
        }
    )
    .AddPasswordValidator<PinRules>()
    .AddEntityFrameworkStores<GradusContext>();
foreach (var found in AssemblyScanner.FindValidatorsInAssemblyContaining<LengthRequestValidator>())
{
    builder.Services.AddSingleton(found.InterfaceType, found.ValidatorType);
}

builder.Services.ConfigureHttpJsonOptions(json =>
{
    json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
    json.SerializerOptions.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
    json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
});
builder.Services.Configure<RouteHandlerOptions>(routes => routes.ThrowOnBadRequest = true);
builder.Services.AddProblemDetails(problems => problems.CustomizeProblemDetails = Problems.NameTheField);
builder.Services.AddOpenApi(openApi =>
    openApi
        .AddDocumentTransformer(ApiDocument.Tidy)
        .AddDocumentTransformer(ApiOperations.Describe)
        .AddDocumentTransformer(Rights.State)
        .AddOperationTransformer(Signing.State)
        .AddOperationTransformer(ApiOperations.StateLimits)
        .AddSchemaTransformer(ApiDocument.TellChances)
);
if (!isDocumentRun)
{
    builder.Services.AddDataProtection().PersistKeysToFileSystem(new DirectoryInfo(options.KeyFolder)).SetApplicationName("gradus");
}

builder
    .Services.AddAuthentication(CookieAuthenticationDefaults.AuthenticationScheme)
    .AddCookie(cookie =>
    {
        cookie.Cookie.Name = options.Demo ? "gradus-demo" : "gradus";
        cookie.Cookie.SameSite = SameSiteMode.Strict;
        cookie.CookieManager = new SchemeCookies();
        cookie.ExpireTimeSpan = TimeSpan.FromHours(16);
        cookie.SlidingExpiration = true;
        cookie.Events.OnValidatePrincipal = SessionCookie.Validate;
    });

// What is read is text, and tablets stand far from the router.
builder.Services.AddResponseCompression(compression => compression.MimeTypes = ["application/json"]);
builder.Services.AddRateLimiter(limiter =>
{
    // A camera takes a photo in a second; more than that is not a camera.
    limiter.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
    limiter.AddPolicy(
        Photos.UploadLimit,
        context =>
            RateLimitPartition.GetFixedWindowLimiter(
                context.User.SessionId(),
                _ => new FixedWindowRateLimiterOptions { PermitLimit = Photos.MostAMinute, Window = TimeSpan.FromMinutes(1) }
            )
    );
});
Validation.UseJsonNames();

builder.Services.AddSingleton<CertificateStore>();
if (options.HttpsPort is not null && !isDocumentRun)
{
    builder.Services.AddHostedService<CertificateRenewal>();
}

var app = builder.Build();
app.UseShopNetwork();
app.UseMetrics(options);
app.UseSlowLog();
Problems.Use(app);
app.UseResponseCompression();
app.UsePages();
app.UseAuthentication();
app.UseRights();
app.UseRateLimiter();
app.UseCleanBodies();
app.MapOpenApi("/openapi/{documentName}.json");
app.MapHealth();
app.MapShopNetwork();
app.MapAccounts();
app.MapPeople();
app.MapSchool();
app.MapBackups();
app.MapActs();
app.MapKeeping();
app.MapClock();
app.MapStudentPins();
app.MapWallSession();
app.MapShopMath();
app.MapLibrary();
app.MapFloor();
app.MapWall();
app.MapDue();
app.MapFind();
app.MapMine();
app.MapCoaching();
app.MapStudents();
app.MapClasses();
app.MapOwnFiles();
app.MapOwnFilePdf();
app.MapCoupons();
app.MapInstruments();
app.MapLaboratories();
app.MapDecisions();
app.MapCertificates();
app.MapReadiness();
app.MapModel();
app.MapLearning();
app.MapSolve();
app.MapCost();
app.MapWeeks();
app.MapSteps();
app.MapStock();
app.MapExports();
app.MapSittings();
app.MapUnmatched();
app.MapFallbackToFile("index.html", Pages.Page);
app.MapFallbackToFile("/library/{**path}", "index.html", Pages.Page); // ids there have dots, which would pass for files

if (!isDocumentRun)
{
    var routes = Task.Run(() => ((IEndpointRouteBuilder)app).DataSources.Sum(one => one.Endpoints.Count));
    try
    {
        await Startup.PrepareDatabase(app);
        if (options.HttpsPort is not null)
        {
            app.Services.GetRequiredService<CertificateStore>().Renew();
        }

        await Task.WhenAll(shipped, routes);
    }
    catch (StorageException error)
    {
        await app.DisposeAsync();
        await Console.Error.WriteLineAsync($"Gradus does not start. {error.Message}");
        return ExitCodes.StorageIll;
    }

    // Not when the document is made: there is no database then.
    app.Lifetime.ApplicationStarted.Register(app.Services.GetRequiredService<TodaysReview>().Start);
    app.Lifetime.ApplicationStarted.Register(app.Services.GetRequiredService<Inflow>().Start);
    app.Lifetime.ApplicationStarted.Register(() =>
        Console.WriteLine($"Gradus serves {string.Join(" ", app.Urls)}{(options.Demo ? " (demo school)" : "")}")
    );
}

await app.RunAsync();
return ExitCodes.Fine;

/// <summary>The entry point, visible to the tests.</summary>
public partial class Program;
