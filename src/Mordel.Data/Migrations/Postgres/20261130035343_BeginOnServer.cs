using System;
using Microsoft.EntityFrameworkCore.Migrations;
using Npgsql.EntityFrameworkCore.PostgreSQL.Metadata;

#nullable disable

namespace Mordel.Data.Migrations.Postgres
{
    /// <inheritdoc />
    public partial class BeginOnServer : Migration
    {
        /// <inheritdoc />
        protected override void Up(MigrationBuilder migrationBuilder)
        {
            migrationBuilder.CreateTable(
                name: "Alarms",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Subject = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Says = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    FirstSeenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    LastSeenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Alarms", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "AspNetRoles",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    NormalizedName = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ConcurrencyStamp = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetRoles", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUsers",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    FullName = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    DemoNote = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    MustChangePassword = table.Column<bool>(type: "boolean", nullable: false),
                    DismissedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    ForgottenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    UserName = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    NormalizedUserName = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Email = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    NormalizedEmail = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    EmailConfirmed = table.Column<bool>(type: "boolean", nullable: false),
                    PasswordHash = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    SecurityStamp = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ConcurrencyStamp = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    PhoneNumber = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    PhoneNumberConfirmed = table.Column<bool>(type: "boolean", nullable: false),
                    TwoFactorEnabled = table.Column<bool>(type: "boolean", nullable: false),
                    LockoutEnd = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    LockoutEnabled = table.Column<bool>(type: "boolean", nullable: false),
                    AccessFailedCount = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUsers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Audit",
                columns: table => new
                {
                    Number = table.Column<long>(type: "bigint", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: true),
                    Who = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    What = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    On = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Says = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    From = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Audit", x => x.Number);
                });

            migrationBuilder.CreateTable(
                name: "AuditEnds",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Signature = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AuditEnds", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Authorities",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProfileId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ReportsBy = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ReportsTo = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ReportsAs = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ReportsKey = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    RulingsSeen = table.Column<long>(type: "bigint", nullable: false),
                    AlertsTo = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    DueBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Authorities", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Chains",
                columns: table => new
                {
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    Head = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Signature = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Chains", x => x.AssemblyId);
                });

            migrationBuilder.CreateTable(
                name: "Changes",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Thing = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ThingId = table.Column<Guid>(type: "uuid", nullable: false),
                    Field = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    From = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    To = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    BatchId = table.Column<Guid>(type: "uuid", nullable: true),
                    How = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Changes", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ColumnMemories",
                columns: table => new
                {
                    Sender = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Head = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Field = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ColumnMemories", x => new { x.Sender, x.Head });
                });

            migrationBuilder.CreateTable(
                name: "DurationSteps",
                columns: table => new
                {
                    ProcedureId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Step = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Order = table.Column<int>(type: "integer", nullable: false),
                    Title = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_DurationSteps", x => new { x.ProcedureId, x.Step });
                });

            migrationBuilder.CreateTable(
                name: "Durations",
                columns: table => new
                {
                    ProcedureId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    TesterId = table.Column<Guid>(type: "uuid", nullable: false),
                    Step = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Class = table.Column<int>(type: "integer", nullable: false),
                    Count = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Durations", x => new { x.ProcedureId, x.TesterId, x.Step, x.Class });
                });

            migrationBuilder.CreateTable(
                name: "EarlierSeals",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Serial = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Kit = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Certificate = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Ink = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    PreviousHash = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    KeySignature = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_EarlierSeals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Imports",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    FileName = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Sender = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Columns = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Authority = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Rules = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Lines = table.Column<int>(type: "integer", nullable: false),
                    New = table.Column<int>(type: "integer", nullable: false),
                    Changed = table.Column<int>(type: "integer", nullable: false),
                    Same = table.Column<int>(type: "integer", nullable: false),
                    Doubtful = table.Column<int>(type: "integer", nullable: false),
                    Wrong = table.Column<int>(type: "integer", nullable: false),
                    Understood = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Says = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    AppliedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    AppliedBy = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    UndoneAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    UndoneBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Imports", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Incoming",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    MessageId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    From = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Subject = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Bounced = table.Column<bool>(type: "boolean", nullable: false),
                    OutboxId = table.Column<Guid>(type: "uuid", nullable: true),
                    SeenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    SeenBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Incoming", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "KeptTexts",
                columns: table => new
                {
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_KeptTexts", x => x.Hash);
                });

            migrationBuilder.CreateTable(
                name: "Kits",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    KeeperId = table.Column<Guid>(type: "uuid", nullable: true),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Make = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Model = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Serial = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Unit = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Resolution = table.Column<decimal>(type: "numeric", nullable: false),
                    Accuracy = table.Column<decimal>(type: "numeric", nullable: false),
                    FullScale = table.Column<decimal>(type: "numeric", nullable: false),
                    CalibratedOn = table.Column<DateOnly>(type: "date", nullable: false),
                    CalibratedBy = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    CalibrationDue = table.Column<DateOnly>(type: "date", nullable: false),
                    HoseColours = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Kits", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Ledger",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Signature = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Ledger", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Links",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Purpose = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    OfId = table.Column<Guid>(type: "uuid", nullable: false),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    MadeBy = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    MadeAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ExpiresAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    RevokedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Links", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Merges",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    KeptId = table.Column<Guid>(type: "uuid", nullable: false),
                    GoneId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Moved = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    UndoneAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    UndoneBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Merges", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "ModelBuilds",
                columns: table => new
                {
                    Make = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Model = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Family = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Relief = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    SaidAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    SaidBy = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ModelBuilds", x => new { x.Make, x.Model });
                });

            migrationBuilder.CreateTable(
                name: "NoticeSwitches",
                columns: table => new
                {
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Off = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeSwitches", x => x.Kind);
                });

            migrationBuilder.CreateTable(
                name: "NoticeTemplates",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProfileId = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Language = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    Subject = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    MadeAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_NoticeTemplates", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Owners",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Address = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Phone = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Mail = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Language = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Owners", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Papers",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    MediaType = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Bytes = table.Column<long>(type: "bigint", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: true),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Papers", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "PartItems",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Make = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Model = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Size = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Part = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Price = table.Column<decimal>(type: "numeric", nullable: false),
                    SupplierNumber = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    LeadDays = table.Column<int>(type: "integer", nullable: false),
                    Least = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartItems", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "PartYears",
                columns: table => new
                {
                    Type = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Part = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Mended = table.Column<bool>(type: "boolean", nullable: false),
                    Year = table.Column<int>(type: "integer", nullable: false),
                    Seen = table.Column<int>(type: "integer", nullable: false),
                    Failed = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartYears", x => new { x.Type, x.Part, x.Mended, x.Year });
                });

            migrationBuilder.CreateTable(
                name: "Profiles",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ProfileId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Version = table.Column<int>(type: "integer", nullable: false),
                    Json = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    MadeAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    MadeBy = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Profiles", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "Proposals",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    FirstDay = table.Column<DateOnly>(type: "date", nullable: false),
                    LastDay = table.Column<DateOnly>(type: "date", nullable: false),
                    Stops = table.Column<int>(type: "integer", nullable: false),
                    LeftOut = table.Column<int>(type: "integer", nullable: false),
                    Problem = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Says = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    AcceptedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    AcceptedBy = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Proposals", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "RateResets",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    From = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RateResets", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "SigningKeys",
                columns: table => new
                {
                    Id = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    PublicKey = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Since = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    RetiredAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    Endorsement = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Succession = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_SigningKeys", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "StandingCounts",
                columns: table => new
                {
                    Dimension = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Type = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Value = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Month = table.Column<int>(type: "integer", nullable: false),
                    Again = table.Column<bool>(type: "boolean", nullable: false),
                    Passed = table.Column<int>(type: "integer", nullable: false),
                    Failed = table.Column<int>(type: "integer", nullable: false),
                    Unfinished = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_StandingCounts", x => new { x.Dimension, x.Type, x.Value, x.Month, x.Again });
                });

            migrationBuilder.CreateTable(
                name: "Standings",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Signed = table.Column<int>(type: "integer", nullable: false),
                    LastSeal = table.Column<long>(type: "bigint", nullable: false),
                    Brought = table.Column<int>(type: "integer", nullable: false),
                    LeftOpen = table.Column<int>(type: "integer", nullable: false),
                    Timed = table.Column<int>(type: "integer", nullable: false),
                    Took = table.Column<int>(type: "integer", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Standings", x => x.Id);
                });

            migrationBuilder.CreateTable(
                name: "AspNetRoleClaims",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    RoleId = table.Column<Guid>(type: "uuid", nullable: false),
                    ClaimType = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ClaimValue = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetRoleClaims", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AspNetRoleClaims_AspNetRoles_RoleId",
                        column: x => x.RoleId,
                        principalTable: "AspNetRoles",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserClaims",
                columns: table => new
                {
                    Id = table.Column<int>(type: "integer", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    UserId = table.Column<Guid>(type: "uuid", nullable: false),
                    ClaimType = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ClaimValue = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserClaims", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AspNetUserClaims_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserLogins",
                columns: table => new
                {
                    LoginProvider = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProviderKey = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProviderDisplayName = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    UserId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserLogins", x => new { x.LoginProvider, x.ProviderKey });
                    table.ForeignKey(
                        name: "FK_AspNetUserLogins_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserPasskeys",
                columns: table => new
                {
                    CredentialId = table.Column<byte[]>(type: "bytea", maxLength: 1024, nullable: false),
                    UserId = table.Column<Guid>(type: "uuid", nullable: false),
                    Data = table.Column<string>(type: "jsonb", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserPasskeys", x => x.CredentialId);
                    table.ForeignKey(
                        name: "FK_AspNetUserPasskeys_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserRoles",
                columns: table => new
                {
                    UserId = table.Column<Guid>(type: "uuid", nullable: false),
                    RoleId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserRoles", x => new { x.UserId, x.RoleId });
                    table.ForeignKey(
                        name: "FK_AspNetUserRoles_AspNetRoles_RoleId",
                        column: x => x.RoleId,
                        principalTable: "AspNetRoles",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_AspNetUserRoles_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "AspNetUserTokens",
                columns: table => new
                {
                    UserId = table.Column<Guid>(type: "uuid", nullable: false),
                    LoginProvider = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Value = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AspNetUserTokens", x => new { x.UserId, x.LoginProvider, x.Name });
                    table.ForeignKey(
                        name: "FK_AspNetUserTokens_AspNetUsers_UserId",
                        column: x => x.UserId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Classes",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    InstructorId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Classes", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Classes_AspNetUsers_InstructorId",
                        column: x => x.InstructorId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Sessions",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    LastSeenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ProvedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    From = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Device = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    How = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    EndedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    TookAlongAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    CutOffAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Sessions", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Sessions_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Tokens",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Scope = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    CreatedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ExpiresAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    RevokedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    LastUsedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Tokens", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Tokens_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "WorkingHours",
                columns: table => new
                {
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false),
                    From = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    Until = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    East = table.Column<int>(type: "integer", nullable: false),
                    North = table.Column<int>(type: "integer", nullable: false),
                    LunchMinutes = table.Column<int>(type: "integer", nullable: false),
                    Skills = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_WorkingHours", x => x.AccountId);
                    table.ForeignKey(
                        name: "FK_WorkingHours_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ImportLines",
                columns: table => new
                {
                    ImportId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Cells = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Remarks = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: true),
                    Decision = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Effect = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ImportLines", x => new { x.ImportId, x.Number });
                    table.ForeignKey(
                        name: "FK_ImportLines_Imports_ImportId",
                        column: x => x.ImportId,
                        principalTable: "Imports",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Comparisons",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    OneId = table.Column<Guid>(type: "uuid", nullable: false),
                    OtherId = table.Column<Guid>(type: "uuid", nullable: false),
                    On = table.Column<DateOnly>(type: "date", nullable: false),
                    Pairs = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Where = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Comparisons", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Comparisons_Kits_OneId",
                        column: x => x.OneId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Comparisons_Kits_OtherId",
                        column: x => x.OtherId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Loans",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    KitId = table.Column<Guid>(type: "uuid", nullable: false),
                    ToId = table.Column<Guid>(type: "uuid", nullable: false),
                    From = table.Column<DateOnly>(type: "date", nullable: false),
                    Until = table.Column<DateOnly>(type: "date", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Loans", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Loans_AspNetUsers_ToId",
                        column: x => x.ToId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Loans_Kits_KitId",
                        column: x => x.KitId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Places",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    OwnerId = table.Column<Guid>(type: "uuid", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Address = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    District = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    East = table.Column<int>(type: "integer", nullable: false),
                    North = table.Column<int>(type: "integer", nullable: false),
                    Contact = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Access = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    OccupantMail = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Places", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Places_Owners_OwnerId",
                        column: x => x.OwnerId,
                        principalTable: "Owners",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Calibrations",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    KitId = table.Column<Guid>(type: "uuid", nullable: false),
                    On = table.Column<DateOnly>(type: "date", nullable: false),
                    CalibratedBy = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Due = table.Column<DateOnly>(type: "date", nullable: false),
                    FoundHigh = table.Column<decimal>(type: "numeric", nullable: true),
                    PaperId = table.Column<Guid>(type: "uuid", nullable: true),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Calibrations", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Calibrations_Kits_KitId",
                        column: x => x.KitId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Calibrations_Papers_PaperId",
                        column: x => x.PaperId,
                        principalTable: "Papers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Certificates",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Types = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    IssuedBy = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ValidFrom = table.Column<DateOnly>(type: "date", nullable: false),
                    ValidUntil = table.Column<DateOnly>(type: "date", nullable: false),
                    AuthorityId = table.Column<Guid>(type: "uuid", nullable: true),
                    Class = table.Column<string>(type: "text", nullable: false, defaultValue: "", collation: "C"),
                    PaperId = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Certificates", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Certificates_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Certificates_Authorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "Authorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Certificates_Papers_PaperId",
                        column: x => x.PaperId,
                        principalTable: "Papers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "PartMoves",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ItemId = table.Column<Guid>(type: "uuid", nullable: false),
                    HolderId = table.Column<Guid>(type: "uuid", nullable: true),
                    Count = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Why = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_PartMoves", x => x.Id);
                    table.ForeignKey(
                        name: "FK_PartMoves_PartItems_ItemId",
                        column: x => x.ItemId,
                        principalTable: "PartItems",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "ProposalSteps",
                columns: table => new
                {
                    ProposalId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Says = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Pins = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Plan = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ProposalSteps", x => new { x.ProposalId, x.Number });
                    table.ForeignKey(
                        name: "FK_ProposalSteps_Proposals_ProposalId",
                        column: x => x.ProposalId,
                        principalTable: "Proposals",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Assignments",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    ClassId = table.Column<Guid>(type: "uuid", nullable: false),
                    Title = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Rig = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Minutes = table.Column<int>(type: "integer", nullable: false),
                    SetAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    DueOn = table.Column<DateOnly>(type: "date", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Assignments", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Assignments_Classes_ClassId",
                        column: x => x.ClassId,
                        principalTable: "Classes",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "ClassMembers",
                columns: table => new
                {
                    ClassId = table.Column<Guid>(type: "uuid", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_ClassMembers", x => new { x.ClassId, x.AccountId });
                    table.ForeignKey(
                        name: "FK_ClassMembers_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_ClassMembers_Classes_ClassId",
                        column: x => x.ClassId,
                        principalTable: "Classes",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Assemblies",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    PlaceId = table.Column<Guid>(type: "uuid", nullable: false),
                    AuthorityId = table.Column<Guid>(type: "uuid", nullable: false),
                    Tag = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Type = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Make = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Model = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Size = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Serial = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    SerialKey = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Flow = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Location = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Serves = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hazard = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Protection = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    FireLine = table.Column<bool>(type: "boolean", nullable: false),
                    Body = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Strainer = table.Column<bool>(type: "boolean", nullable: false),
                    FittedCocks = table.Column<bool>(type: "boolean", nullable: false),
                    ConfinedSpace = table.Column<bool>(type: "boolean", nullable: false),
                    BypassLine = table.Column<bool>(type: "boolean", nullable: false),
                    ReliefPort = table.Column<decimal>(type: "numeric", nullable: true),
                    InstalledOn = table.Column<DateOnly>(type: "date", nullable: false),
                    HowToFind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ReplacesId = table.Column<Guid>(type: "uuid", nullable: true),
                    ReplacedOn = table.Column<DateOnly>(type: "date", nullable: true),
                    MergedIntoId = table.Column<Guid>(type: "uuid", nullable: true),
                    Use = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Season = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    WaterOff = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Stuck = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    StuckNote = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    StuckSince = table.Column<DateOnly>(type: "date", nullable: true),
                    LastTestOn = table.Column<DateOnly>(type: "date", nullable: true),
                    LastOutcome = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    BroughtOn = table.Column<DateOnly>(type: "date", nullable: true),
                    BroughtOutcome = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    NextDue = table.Column<DateOnly>(type: "date", nullable: true),
                    DueUntil = table.Column<DateOnly>(type: "date", nullable: true),
                    DueCause = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    DueWhy = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    DueThen = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ChanceToFail = table.Column<int>(type: "integer", nullable: true),
                    LikelyPart = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Assemblies", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Assemblies_Authorities_AuthorityId",
                        column: x => x.AuthorityId,
                        principalTable: "Authorities",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Assemblies_Places_PlaceId",
                        column: x => x.PlaceId,
                        principalTable: "Places",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Attempts",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AccountId = table.Column<Guid>(type: "uuid", nullable: false),
                    AssignmentId = table.Column<Guid>(type: "uuid", nullable: true),
                    ProcedureId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Tape = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    HandedInAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Marks = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Seconds = table.Column<int>(type: "integer", nullable: false),
                    Percent = table.Column<int>(type: "integer", nullable: false),
                    Passed = table.Column<bool>(type: "boolean", nullable: false),
                    Lost = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Attempts", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Attempts_AspNetUsers_AccountId",
                        column: x => x.AccountId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Attempts_Assignments_AssignmentId",
                        column: x => x.AssignmentId,
                        principalTable: "Assignments",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "AssemblyEvents",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Day = table.Column<DateOnly>(type: "date", nullable: false),
                    Due = table.Column<DateOnly>(type: "date", nullable: true),
                    Note = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ImportId = table.Column<Guid>(type: "uuid", nullable: true),
                    TakenBackAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_AssemblyEvents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_AssemblyEvents_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "BroughtTests",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    Day = table.Column<DateOnly>(type: "date", nullable: false),
                    Outcome = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Values = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Source = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ImportId = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_BroughtTests", x => x.Id);
                    table.ForeignKey(
                        name: "FK_BroughtTests_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Consents",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    StopId = table.Column<Guid>(type: "uuid", nullable: true),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Name = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Yes = table.Column<bool>(type: "boolean", nullable: false),
                    Day = table.Column<DateOnly>(type: "date", nullable: true),
                    From = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    Until = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    AskFor = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Note = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    LinkId = table.Column<Guid>(type: "uuid", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Consents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Consents_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Diagnoses",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    RunId = table.Column<Guid>(type: "uuid", nullable: true),
                    ProcedureId = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    OpenedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    OpenedBy = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Diagnoses", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Diagnoses_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Notices",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    Kind = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    To = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    OutboxId = table.Column<Guid>(type: "uuid", nullable: true),
                    StopId = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Notices", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Notices_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Stops",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Day = table.Column<DateOnly>(type: "date", nullable: false),
                    TesterId = table.Column<Guid>(type: "uuid", nullable: false),
                    Order = table.Column<int>(type: "integer", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    WindowFrom = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    WindowUntil = table.Column<TimeOnly>(type: "time without time zone", nullable: false),
                    Minutes = table.Column<int>(type: "integer", nullable: false),
                    PlannedAt = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    ChangedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    ToldDay = table.Column<DateOnly>(type: "date", nullable: true),
                    ToldFrom = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    ToldUntil = table.Column<TimeOnly>(type: "time without time zone", nullable: true),
                    RemindedOf = table.Column<DateOnly>(type: "date", nullable: true),
                    Visit = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Special = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Stops", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Stops_AspNetUsers_TesterId",
                        column: x => x.TesterId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Stops_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Observations",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    DiagnosisId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Way = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Json = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    TakesBack = table.Column<Guid>(type: "uuid", nullable: true),
                    Opened = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Observations", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Observations_Diagnoses_DiagnosisId",
                        column: x => x.DiagnosisId,
                        principalTable: "Diagnoses",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Runs",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    StopId = table.Column<Guid>(type: "uuid", nullable: true),
                    TesterId = table.Column<Guid>(type: "uuid", nullable: false),
                    KitId = table.Column<Guid>(type: "uuid", nullable: false),
                    ProcedureId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProfileId = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ProfileVersion = table.Column<int>(type: "integer", nullable: false),
                    StartedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Number = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Setup = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    SignedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    SignedName = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Outcome = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Summary = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    FoundText = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ZeroHigh = table.Column<decimal>(type: "numeric", nullable: true),
                    NotEntered = table.Column<int>(type: "integer", nullable: false),
                    WasMended = table.Column<bool>(type: "boolean", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Runs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Runs_AspNetUsers_TesterId",
                        column: x => x.TesterId,
                        principalTable: "AspNetUsers",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Runs_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Runs_Kits_KitId",
                        column: x => x.KitId,
                        principalTable: "Kits",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                    table.ForeignKey(
                        name: "FK_Runs_Stops_StopId",
                        column: x => x.StopId,
                        principalTable: "Stops",
                        principalColumn: "Id");
                });

            migrationBuilder.CreateTable(
                name: "Amendments",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    RunId = table.Column<Guid>(type: "uuid", nullable: false),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Amendments", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Amendments_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Entries",
                columns: table => new
                {
                    RunId = table.Column<Guid>(type: "uuid", nullable: false),
                    EntryId = table.Column<Guid>(type: "uuid", nullable: false),
                    Tick = table.Column<long>(type: "bigint", nullable: false),
                    Json = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    ReceivedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Entries", x => new { x.RunId, x.EntryId });
                    table.ForeignKey(
                        name: "FK_Entries_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Outbox",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    Key = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Way = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    To = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Recipient = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Title = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Kind = table.Column<string>(type: "text", nullable: false, defaultValue: "report", collation: "C"),
                    Forms = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    RunId = table.Column<Guid>(type: "uuid", nullable: true),
                    OwnerId = table.Column<Guid>(type: "uuid", nullable: true),
                    PlaceId = table.Column<Guid>(type: "uuid", nullable: true),
                    WrittenAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Tries = table.Column<int>(type: "integer", nullable: false),
                    NextTryAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ExpiresAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    Says = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Receipt = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    SettledAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Outbox", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Outbox_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Repairs",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    RunId = table.Column<Guid>(type: "uuid", nullable: true),
                    DiagnosisId = table.Column<Guid>(type: "uuid", nullable: false),
                    Sheets = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    TurnedDiscHolds = table.Column<bool>(type: "boolean", nullable: false),
                    OpenedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    OpenedBy = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    OpenedById = table.Column<Guid>(type: "uuid", nullable: false),
                    Stage = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Summary = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    ClosedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: true),
                    RetestId = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Repairs", x => x.Id);
                    table.ForeignKey(
                        name: "FK_Repairs_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Repairs_Diagnoses_DiagnosisId",
                        column: x => x.DiagnosisId,
                        principalTable: "Diagnoses",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_Repairs_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Results",
                columns: table => new
                {
                    RunId = table.Column<Guid>(type: "uuid", nullable: false),
                    Item = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Result = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Value = table.Column<decimal>(type: "numeric", nullable: true),
                    Unit = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Limit = table.Column<decimal>(type: "numeric", nullable: true),
                    Text = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Results", x => new { x.RunId, x.Item });
                    table.ForeignKey(
                        name: "FK_Results_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "Seals",
                columns: table => new
                {
                    Number = table.Column<long>(type: "bigint", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    Sequence = table.Column<int>(type: "integer", nullable: false),
                    RunId = table.Column<Guid>(type: "uuid", nullable: false),
                    AmendmentId = table.Column<Guid>(type: "uuid", nullable: true),
                    Code = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Link = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Hash = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Signature = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Record = table.Column<byte[]>(type: "bytea", nullable: false)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Seals", x => x.Number);
                    table.ForeignKey(
                        name: "FK_Seals_Runs_RunId",
                        column: x => x.RunId,
                        principalTable: "Runs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "Letters",
                columns: table => new
                {
                    OutboxId = table.Column<Guid>(type: "uuid", nullable: false),
                    Subject = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Text = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Html = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    LinkId = table.Column<Guid>(type: "uuid", nullable: true)
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_Letters", x => x.OutboxId);
                    table.ForeignKey(
                        name: "FK_Letters_Outbox_OutboxId",
                        column: x => x.OutboxId,
                        principalTable: "Outbox",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "OutboxEvents",
                columns: table => new
                {
                    Id = table.Column<long>(type: "bigint", nullable: false)
                        .Annotation("Npgsql:ValueGenerationStrategy", NpgsqlValueGenerationStrategy.IdentityByDefaultColumn),
                    OutboxId = table.Column<Guid>(type: "uuid", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    State = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Says = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    Receipt = table.Column<string>(type: "text", nullable: true, collation: "C"),
                    By = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_OutboxEvents", x => x.Id);
                    table.ForeignKey(
                        name: "FK_OutboxEvents_Outbox_OutboxId",
                        column: x => x.OutboxId,
                        principalTable: "Outbox",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Cascade);
                });

            migrationBuilder.CreateTable(
                name: "FollowUps",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    RepairId = table.Column<Guid>(type: "uuid", nullable: false),
                    AssemblyId = table.Column<Guid>(type: "uuid", nullable: false),
                    What = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Order = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Told = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Due = table.Column<DateOnly>(type: "date", nullable: false),
                    How = table.Column<string>(type: "text", nullable: true, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_FollowUps", x => x.Id);
                    table.ForeignKey(
                        name: "FK_FollowUps_Assemblies_AssemblyId",
                        column: x => x.AssemblyId,
                        principalTable: "Assemblies",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                    table.ForeignKey(
                        name: "FK_FollowUps_Repairs_RepairId",
                        column: x => x.RepairId,
                        principalTable: "Repairs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateTable(
                name: "RepairEntries",
                columns: table => new
                {
                    Id = table.Column<Guid>(type: "uuid", nullable: false),
                    RepairId = table.Column<Guid>(type: "uuid", nullable: false),
                    Number = table.Column<int>(type: "integer", nullable: false),
                    At = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    ReceivedAt = table.Column<DateTime>(type: "timestamp with time zone", nullable: false),
                    By = table.Column<string>(type: "text", nullable: false, collation: "C"),
                    Json = table.Column<string>(type: "text", nullable: false, collation: "C")
                },
                constraints: table =>
                {
                    table.PrimaryKey("PK_RepairEntries", x => x.Id);
                    table.ForeignKey(
                        name: "FK_RepairEntries_Repairs_RepairId",
                        column: x => x.RepairId,
                        principalTable: "Repairs",
                        principalColumn: "Id",
                        onDelete: ReferentialAction.Restrict);
                });

            migrationBuilder.CreateIndex(
                name: "IX_Alarms_Subject_Says",
                table: "Alarms",
                columns: new[] { "Subject", "Says" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Amendments_RunId",
                table: "Amendments",
                column: "RunId");

            migrationBuilder.CreateIndex(
                name: "IX_AspNetRoleClaims_RoleId",
                table: "AspNetRoleClaims",
                column: "RoleId");

            migrationBuilder.CreateIndex(
                name: "RoleNameIndex",
                table: "AspNetRoles",
                column: "NormalizedName",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserClaims_UserId",
                table: "AspNetUserClaims",
                column: "UserId");

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserLogins_UserId",
                table: "AspNetUserLogins",
                column: "UserId");

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserPasskeys_UserId",
                table: "AspNetUserPasskeys",
                column: "UserId");

            migrationBuilder.CreateIndex(
                name: "IX_AspNetUserRoles_RoleId",
                table: "AspNetUserRoles",
                column: "RoleId");

            migrationBuilder.CreateIndex(
                name: "EmailIndex",
                table: "AspNetUsers",
                column: "NormalizedEmail")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "UserNameIndex",
                table: "AspNetUsers",
                column: "NormalizedUserName",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_AuthorityId_NextDue",
                table: "Assemblies",
                columns: new[] { "AuthorityId", "NextDue" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_ChanceToFail",
                table: "Assemblies",
                column: "ChanceToFail",
                filter: "\"ChanceToFail\" >= 25")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_LastOutcome_Tag",
                table: "Assemblies",
                columns: new[] { "LastOutcome", "Tag" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_LastTestOn_Tag",
                table: "Assemblies",
                columns: new[] { "LastTestOn", "Tag" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_MergedIntoId",
                table: "Assemblies",
                column: "MergedIntoId",
                filter: "\"MergedIntoId\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_NextDue_Tag",
                table: "Assemblies",
                columns: new[] { "NextDue", "Tag" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_PlaceId_ReplacedOn_NextDue_DueCause",
                table: "Assemblies",
                columns: new[] { "PlaceId", "ReplacedOn", "NextDue", "DueCause" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst, NullSortOrder.NullsFirst, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_ReplacesId",
                table: "Assemblies",
                column: "ReplacesId",
                filter: "\"ReplacesId\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Serial",
                table: "Assemblies",
                column: "Serial");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_SerialKey",
                table: "Assemblies",
                column: "SerialKey");

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Stuck",
                table: "Assemblies",
                column: "Stuck",
                filter: "\"Stuck\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Tag",
                table: "Assemblies",
                column: "Tag",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Assemblies_Type_NextDue",
                table: "Assemblies",
                columns: new[] { "Type", "NextDue" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_AssemblyEvents_AssemblyId",
                table: "AssemblyEvents",
                column: "AssemblyId");

            migrationBuilder.CreateIndex(
                name: "IX_AssemblyEvents_ImportId",
                table: "AssemblyEvents",
                column: "ImportId",
                filter: "\"ImportId\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Assignments_ClassId",
                table: "Assignments",
                column: "ClassId");

            migrationBuilder.CreateIndex(
                name: "IX_Attempts_AccountId_HandedInAt",
                table: "Attempts",
                columns: new[] { "AccountId", "HandedInAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Attempts_AssignmentId",
                table: "Attempts",
                column: "AssignmentId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Audit_On_Number",
                table: "Audit",
                columns: new[] { "On", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Audit_What_Number",
                table: "Audit",
                columns: new[] { "What", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_BroughtTests_AssemblyId_Day",
                table: "BroughtTests",
                columns: new[] { "AssemblyId", "Day" });

            migrationBuilder.CreateIndex(
                name: "IX_BroughtTests_ImportId",
                table: "BroughtTests",
                column: "ImportId",
                filter: "\"ImportId\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Calibrations_KitId_On",
                table: "Calibrations",
                columns: new[] { "KitId", "On" });

            migrationBuilder.CreateIndex(
                name: "IX_Calibrations_PaperId",
                table: "Calibrations",
                column: "PaperId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_AccountId",
                table: "Certificates",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_AuthorityId",
                table: "Certificates",
                column: "AuthorityId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Certificates_PaperId",
                table: "Certificates",
                column: "PaperId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Changes_BatchId",
                table: "Changes",
                column: "BatchId",
                filter: "\"BatchId\" IS NOT NULL")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Changes_ThingId_At",
                table: "Changes",
                columns: new[] { "ThingId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_ClassMembers_AccountId",
                table: "ClassMembers",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Classes_InstructorId",
                table: "Classes",
                column: "InstructorId");

            migrationBuilder.CreateIndex(
                name: "IX_Comparisons_OneId",
                table: "Comparisons",
                column: "OneId");

            migrationBuilder.CreateIndex(
                name: "IX_Comparisons_OtherId",
                table: "Comparisons",
                column: "OtherId");

            migrationBuilder.CreateIndex(
                name: "IX_Consents_AssemblyId_At",
                table: "Consents",
                columns: new[] { "AssemblyId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Consents_At",
                table: "Consents",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Diagnoses_AssemblyId_OpenedAt",
                table: "Diagnoses",
                columns: new[] { "AssemblyId", "OpenedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Diagnoses_OpenedAt",
                table: "Diagnoses",
                column: "OpenedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Diagnoses_RunId",
                table: "Diagnoses",
                column: "RunId",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_AssemblyId",
                table: "FollowUps",
                column: "AssemblyId");

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_Due",
                table: "FollowUps",
                column: "Due",
                filter: "\"How\" IS NULL");

            migrationBuilder.CreateIndex(
                name: "IX_FollowUps_RepairId",
                table: "FollowUps",
                column: "RepairId");

            migrationBuilder.CreateIndex(
                name: "IX_ImportLines_ImportId_State_Number",
                table: "ImportLines",
                columns: new[] { "ImportId", "State", "Number" });

            migrationBuilder.CreateIndex(
                name: "IX_Imports_At",
                table: "Imports",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Imports_State",
                table: "Imports",
                column: "State");

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_MessageId",
                table: "Incoming",
                column: "MessageId",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_OutboxId",
                table: "Incoming",
                column: "OutboxId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Incoming_SeenAt",
                table: "Incoming",
                column: "SeenAt")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Links_Hash",
                table: "Links",
                column: "Hash",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Links_OfId_Purpose",
                table: "Links",
                columns: new[] { "OfId", "Purpose" });

            migrationBuilder.CreateIndex(
                name: "IX_Loans_KitId",
                table: "Loans",
                column: "KitId");

            migrationBuilder.CreateIndex(
                name: "IX_Loans_ToId",
                table: "Loans",
                column: "ToId");

            migrationBuilder.CreateIndex(
                name: "IX_Loans_Until",
                table: "Loans",
                column: "Until");

            migrationBuilder.CreateIndex(
                name: "IX_Merges_GoneId",
                table: "Merges",
                column: "GoneId");

            migrationBuilder.CreateIndex(
                name: "IX_Merges_KeptId",
                table: "Merges",
                column: "KeptId");

            migrationBuilder.CreateIndex(
                name: "IX_NoticeTemplates_Kind_ProfileId_Language_Version",
                table: "NoticeTemplates",
                columns: new[] { "Kind", "ProfileId", "Language", "Version" },
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst, NullSortOrder.NullsLast, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_AssemblyId_At",
                table: "Notices",
                columns: new[] { "AssemblyId", "At" });

            migrationBuilder.CreateIndex(
                name: "IX_Notices_OutboxId",
                table: "Notices",
                column: "OutboxId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Observations_At",
                table: "Observations",
                column: "At",
                filter: "\"Opened\" IS NOT NULL");

            migrationBuilder.CreateIndex(
                name: "IX_Observations_DiagnosisId_Number",
                table: "Observations",
                columns: new[] { "DiagnosisId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Observations_TakesBack",
                table: "Observations",
                column: "TakesBack",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Outbox_Key",
                table: "Outbox",
                column: "Key",
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Outbox_RunId",
                table: "Outbox",
                column: "RunId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Outbox_State_NextTryAt",
                table: "Outbox",
                columns: new[] { "State", "NextTryAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Outbox_State_SettledAt",
                table: "Outbox",
                columns: new[] { "State", "SettledAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_OutboxEvents_OutboxId",
                table: "OutboxEvents",
                column: "OutboxId");

            migrationBuilder.CreateIndex(
                name: "IX_Owners_Name",
                table: "Owners",
                column: "Name");

            migrationBuilder.CreateIndex(
                name: "IX_PartItems_Make_Model_Size_Name",
                table: "PartItems",
                columns: new[] { "Make", "Model", "Size", "Name" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_PartMoves_ItemId_HolderId",
                table: "PartMoves",
                columns: new[] { "ItemId", "HolderId" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Places_Address",
                table: "Places",
                column: "Address");

            migrationBuilder.CreateIndex(
                name: "IX_Places_District",
                table: "Places",
                column: "District");

            migrationBuilder.CreateIndex(
                name: "IX_Places_East_North",
                table: "Places",
                columns: new[] { "East", "North" });

            migrationBuilder.CreateIndex(
                name: "IX_Places_OwnerId",
                table: "Places",
                column: "OwnerId");

            migrationBuilder.CreateIndex(
                name: "IX_Profiles_ProfileId_Version",
                table: "Profiles",
                columns: new[] { "ProfileId", "Version" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Proposals_At",
                table: "Proposals",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_Proposals_State",
                table: "Proposals",
                column: "State");

            migrationBuilder.CreateIndex(
                name: "IX_RateResets_At",
                table: "RateResets",
                column: "At");

            migrationBuilder.CreateIndex(
                name: "IX_RepairEntries_RepairId_Number",
                table: "RepairEntries",
                columns: new[] { "RepairId", "Number" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_AssemblyId_OpenedAt",
                table: "Repairs",
                columns: new[] { "AssemblyId", "OpenedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_ClosedAt_OpenedAt",
                table: "Repairs",
                columns: new[] { "ClosedAt", "OpenedAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_DiagnosisId",
                table: "Repairs",
                column: "DiagnosisId");

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_OpenedAt",
                table: "Repairs",
                column: "OpenedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_RetestId",
                table: "Repairs",
                column: "RetestId",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Repairs_RunId",
                table: "Repairs",
                column: "RunId")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_AssemblyId_SignedAt",
                table: "Runs",
                columns: new[] { "AssemblyId", "SignedAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_KitId_SignedAt",
                table: "Runs",
                columns: new[] { "KitId", "SignedAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_Number",
                table: "Runs",
                column: "Number",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_SignedAt_StartedAt",
                table: "Runs",
                columns: new[] { "SignedAt", "StartedAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_StartedAt",
                table: "Runs",
                column: "StartedAt");

            migrationBuilder.CreateIndex(
                name: "IX_Runs_StopId",
                table: "Runs",
                column: "StopId",
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Runs_TesterId_StartedAt",
                table: "Runs",
                columns: new[] { "TesterId", "StartedAt" });

            migrationBuilder.CreateIndex(
                name: "IX_Seals_AssemblyId_Sequence",
                table: "Seals",
                columns: new[] { "AssemblyId", "Sequence" },
                unique: true);

            migrationBuilder.CreateIndex(
                name: "IX_Seals_Code",
                table: "Seals",
                column: "Code")
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Seals_RunId_AmendmentId",
                table: "Seals",
                columns: new[] { "RunId", "AmendmentId" },
                unique: true)
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Sessions_AccountId_EndedAt",
                table: "Sessions",
                columns: new[] { "AccountId", "EndedAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsLast, NullSortOrder.NullsFirst });

            migrationBuilder.CreateIndex(
                name: "IX_Sessions_EndedAt_LastSeenAt",
                table: "Sessions",
                columns: new[] { "EndedAt", "LastSeenAt" })
                .Annotation("Npgsql:IndexNullSortOrder", new[] { NullSortOrder.NullsFirst, NullSortOrder.NullsLast });

            migrationBuilder.CreateIndex(
                name: "IX_Stops_AssemblyId",
                table: "Stops",
                column: "AssemblyId");

            migrationBuilder.CreateIndex(
                name: "IX_Stops_Day",
                table: "Stops",
                column: "Day");

            migrationBuilder.CreateIndex(
                name: "IX_Stops_TesterId_Day",
                table: "Stops",
                columns: new[] { "TesterId", "Day" });

            migrationBuilder.CreateIndex(
                name: "IX_Tokens_AccountId",
                table: "Tokens",
                column: "AccountId");

            migrationBuilder.CreateIndex(
                name: "IX_Tokens_Hash",
                table: "Tokens",
                column: "Hash",
                unique: true);

            migrationBuilder.Sql(Mordel.Data.Lists.PostgresRegisterIndex.Sql);
            migrationBuilder.Sql(Mordel.Data.Processes.PostgresCounts.Sql);
        }

        /// <inheritdoc />
        protected override void Down(MigrationBuilder migrationBuilder) =>
            throw new System.NotSupportedException("Before it there is nothing to go back to.");
    }
}
