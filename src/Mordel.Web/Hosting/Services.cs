using System.IO.Compression;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.ModelBinding;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Accounts;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Hosting;
using Mordel.Data.Rows;
using Mordel.Data.Startup;
using Mordel.DemoData;
using Mordel.Documents.Interchange;
using Mordel.Documents.Letters;
using Mordel.Documents.Photos;
using Mordel.Documents.Reports;
using Mordel.Simulators;
using Mordel.Web.Api;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Hosting;

/// <summary>Registers what the application is made of.</summary>
public static class Services
{
    /// <summary>Adds everything.</summary>
    public static void AddMordel(this WebApplicationBuilder builder)
    {
        var options = builder.Configuration.GetSection(MordelOptions.Section).Get<MordelOptions>() ?? new();
        options.Data = Path.GetFullPath(options.Data);
        var services = builder.Services;
        services.AddSingleton(options);
        services.AddSingleton(TimeProvider.System);
        services.AddSingleton<GaugeHub>();
        services.AddSingleton<IGaugeSource>(all => all.GetRequiredService<GaugeHub>());
        services.AddSimulatedGauges();
        AddIntake(services, options);
        if (options.Demo)
            services.AddSimulatedOutside();
        else if (!string.IsNullOrEmpty(options.Smtp))
            services.AddSingleton<IMail, SmtpMail>();
        services.AddLetters(
            new(
                options.Firm ?? (options.Demo ? TownData.Firm : "Mordel"),
                options.FirmMail ?? (options.Demo ? TownData.FirmMail : "mordel@localhost")
            )
        );
        services.AddSingleton<ComputeQueue>();
        services.AddSingleton(_ => FolderLock.Take(options.Data, options.Store.IsServer));
        services.AddSingleton<LastTrouble>();
        services.AddSingleton(_ => new FirstAccountCode(options.Store.IsServer ? options.Data : null));
        services.AddSingleton<BackupDesk>();
        services.AddHostedService<NeighbourWorker>();
        services.AddHostedService<BackupWorker>();
        services.AddHostedService<SealCheckWorker>();
        services.AddHostedService<OutboxWorker>();
        services.AddHostedService<RegisterWorker>();
        services.AddSingleton<RunningPlans>();
        services.AddHostedService<PlanWorker>();
        services.AddSingleton<ITableReader, TableReader>();
        services.AddWatching(options);
        services.AddFrontDoor(options, builder.Configuration["urls"]);
        services
            .AddDataProtection()
            .SetApplicationName("Mordel")
            .PersistKeysToFileSystem(new(Path.Combine(options.Data, "keys")));
        services.AddSingleton<ISecretBox, ProtectedSecrets>();
        services.AddSingleton<ModuleMap>();
        services.AddSingleton<FieldFiles>();
        services.AddSingleton<ContentPolicy>();
        services.AddSingleton<IPaperSetter, ReportPdf>();
        services.AddSingleton<IPhotoReader, PhotoReader>();
        services.AddMordelData(options.Store, Installation(builder, options), (all, o) =>
            o.AddInterceptors(all.GetRequiredService<LastTrouble>())
        );
        services.AddDemoTown();

        AddAccounts(services, options);
        services
            .AddRazorPages(pages =>
            {
                var rooms = pages.Conventions;
                rooms
                    .AuthorizeFolder("/")
                    .AllowAnonymousToFolder("/Owner")
                    .AllowAnonymousToPage("/Problem")
                    .AllowAnonymousToPage("/Keys/Index")
                    .AllowAnonymousToPage("/Verify/Index");
                foreach (
                    var page in (string[])["SignIn", "Code", "SignOut", "FirstAccount", "NewPassword", "Forgotten"]
                )
                    rooms.AllowAnonymousToPage($"/Account/{page}");
                foreach (var room in Rooms.All.Where(r => r.Policy is not null))
                foreach (var folder in room.Folders)
                    rooms.AuthorizeFolder(folder, room.Policy!);
            })
            .AddMvcOptions(o =>
            {
                o.Filters.Add<KnownMethodsFilter>();
                o.Filters.Add<CompleteFormsFilter>();
                // Names in brackets are of no use here, and a broken one makes these two throw.
                o.ValueProviderFactories.RemoveType<JQueryFormValueProviderFactory>();
                o.ValueProviderFactories.RemoveType<JQueryQueryStringValueProviderFactory>();
            });
        services
            .AddAuthorizationBuilder()
            .AddPolicy(Policies.Desk, p => p.RequireRole(Policies.AtTheDesk))
            .AddPolicy(Policies.Own, p => p.RequireRole(Roles.Owner))
            .AddPolicy(Policies.Teach, p => p.RequireRole(Policies.Teaching))
            .AddPolicy(Policies.Field, p => p.RequireRole(Policies.InTheField))
            .AddPolicy(Policies.ApiField, p =>
                p.AddAuthenticationSchemes(IdentityConstants.ApplicationScheme, ApiKeyAuthentication.SchemeName)
                    .RequireRole(Policies.InTheField)
            )
            .AddPolicy(Policies.Api, p =>
                p.AddAuthenticationSchemes(IdentityConstants.ApplicationScheme, ApiKeyAuthentication.SchemeName)
                    .RequireAuthenticatedUser()
            )
            .AddPolicy(Policies.ApiWrite, p =>
                p.AddAuthenticationSchemes(IdentityConstants.ApplicationScheme, ApiKeyAuthentication.SchemeName)
                    .RequireRole(Roles.Tester)
                    .RequireAssertion(c =>
                        c.User.FindFirst(ApiKeyAuthentication.Scope) is null or { Value: ApiKeys.Write }
                    )
            );
        services.AddOpenApi("v1", ApiDocument.Configure);
        services.AddAntiforgery(o =>
        {
            o.HeaderName = "X-Mordel-Token";
            o.Cookie.SecurePolicy = Secure(options);
        });
        services.AddResponseCompression(o =>
        {
            o.EnableForHttps = false;
            o.Providers.Add<BrotliCompressionProvider>();
            o.Providers.Add<GzipCompressionProvider>();
            o.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "image/svg+xml"];
        });
        services.Configure<BrotliCompressionProviderOptions>(o => o.Level = CompressionLevel.Fastest);
        services.AddRateLimiter(Limits.Configure);
        builder.WebHost.ConfigureKestrel(k =>
        {
            k.AddServerHeader = false;
            k.Limits.MaxRequestBodySize = Limits.LargestRequest;
        });
    }

    private static Installation Installation(WebApplicationBuilder builder, MordelOptions options) =>
        new(options.Demo, options.TurnedDiscHolds)
        {
            Firm = options.Firm ?? (options.Demo ? TownData.Firm : "Your testers"),
            FirmPhone = options.FirmPhone ?? (options.Demo ? TownData.FirmPhone : ""),
            Address = (
                options.Address ?? builder.Configuration["urls"]?.Split(';')[0] ?? "http://localhost:5000"
            ).TrimEnd('/'),
        };

    // In the demo authorities have services of their own, or, where nothing may listen, one stand-in within.
    private static void AddIntake(IServiceCollection services, MordelOptions options)
    {
        if (options.Demo && !options.Authorities)
            return;
        if (options.Demo)
            services.AddSingleton<SimulatedAuthorities>();
        services.AddSingleton<IAuthorityIntake>(all => new HttpIntake(
            HttpIntake.Client(),
            all.GetService<SimulatedAuthorities>()
        ));
    }

    // Whether cookies leave without TLS.
    private static CookieSecurePolicy Secure(MordelOptions options) =>
        options.IsReachedByTls ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;

    // Rounds of PBKDF2 with HMAC-SHA-512, as is advised for it.
    private const int HashRounds = 210_000;

    private static void AddAccounts(IServiceCollection services, MordelOptions options)
    {
        services
            .AddIdentity<Account, IdentityRole<Guid>>(o =>
            {
                o.Password.RequiredLength = 12;
                o.Password.RequireNonAlphanumeric =
                    o.Password.RequireDigit =
                    o.Password.RequireUppercase =
                    o.Password.RequireLowercase =
                        false;
                o.User.RequireUniqueEmail = false;
                // Wrong passwords are counted by SignInTries, which keeps nobody out who is known; this is for codes.
                o.Lockout.MaxFailedAccessAttempts = 8;
            })
            .AddEntityFrameworkStores<Store>()
            .AddDefaultTokenProviders()
            .AddPasswordValidator<TrivialPasswords>()
            .AddClaimsPrincipalFactory<AccountPrincipalFactory>()
            .AddSignInManager<AccountSignIn>();
        services.AddScoped(all => (AccountSignIn)all.GetRequiredService<SignInManager<Account>>());
        // Older ones are written anew when they are next shown.
        services.Configure<PasswordHasherOptions>(o => o.IterationCount = HashRounds);
        // A passkey stands for password and code: the device's own lock is part of it, and it is found without a name.
        services.Configure<IdentityPasskeyOptions>(o =>
            o.UserVerificationRequirement = o.ResidentKeyRequirement = "required"
        );
        services.AddSingleton<KnownDevices>();
        services.AddSingleton<ForgottenNames>();
        services.AddHostedService<ForgottenWorker>();
        services.AddScoped<ShowAgain>();
        services.AddScoped<WrongTries>();
        services.AddScoped<PersonAccess>();
        services
            .AddAuthentication()
            .AddScheme<AuthenticationSchemeOptions, ApiKeyAuthentication>(ApiKeyAuthentication.SchemeName, null);
        services.ConfigureApplicationCookie(o =>
        {
            o.LoginPath = "/sign-in";
            o.AccessDeniedPath = "/problem/403";
            o.Cookie.Name = "mordel";
            o.Cookie.SameSite = SameSiteMode.Lax;
            o.Cookie.SecurePolicy = Secure(options);
            o.ExpireTimeSpan = Sessions.Idle;
            o.SlidingExpiration = true;
            o.Events.OnValidatePrincipal = SessionCheck.Validate;
            // A script gets a status it can act on, not a page to sign in.
            o.Events.OnRedirectToLogin = c => Answers.OrRedirect(c, StatusCodes.Status401Unauthorized);
            o.Events.OnRedirectToAccessDenied = c => Answers.OrRedirect(c, StatusCodes.Status403Forbidden);
        });
        // Beside the session, which every request asks for: roles and names that changed are read anew.
        services.Configure<SecurityStampValidatorOptions>(o =>
        {
            o.ValidationInterval = TimeSpan.FromMinutes(5);
            o.OnRefreshingPrincipal = SessionCheck.Carry;
        });
    }
}
