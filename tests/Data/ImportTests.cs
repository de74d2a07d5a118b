using System.IO.Compression;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Interchange;

namespace Mordel.Data.Tests;

/// <summary>Files on their way into the register: looked at, decided, taken in whole, undone.</summary>
public sealed class ImportTests : IAsyncLifetime, IAsyncDisposable
{
    private const string Heads =
        "Customer,Premises,Street,Device Type,Maker,Model,Size,Serial No,Hazard,Last Test,Result,Test Due";

    private static readonly CancellationToken None = CancellationToken.None;
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync() => await hamlet.Filled([AssemblyTypes.DC, AssemblyTypes.DC]);

    Task IAsyncLifetime.DisposeAsync() => DisposeAsync().AsTask();

    public ValueTask DisposeAsync() => hamlet.DisposeAsync();

    private Task<T> With<T, TService>(Func<TService, Task<T>> work)
        where TService : notnull => hamlet.With(work);

    private Task<Reply<Guid>> Bring(byte[] file, string name = "list.csv", string? sender = "The board") =>
        With<Reply<Guid>, BeginImport>(async b =>
        {
            using var bytes = new MemoryStream(file);
            return await b.Take(bytes, name, sender, "Wilma", None);
        });

    private async Task<ImportRow> Checked(params string[] lines) =>
        await Checked(Encoding.UTF8.GetBytes(string.Join('\n', lines)));

    private async Task<ImportRow> Checked(byte[] file)
    {
        var brought = await Bring(file);
        Assert.Null(brought.Refusal);
        var import = await Read(brought.Value);
        var columns = ImportColumns.Read(import.Columns);
        var said = await With<Reply<Guid>, BeginImport>(b =>
            b.Say(import.Id, new([.. columns.Select(c => c.Field ?? "")], [], "Water Board", "psid-standard"), None)
        );
        Assert.Null(said.Refusal);
        await With<int, CheckImport>(async c =>
        {
            await c.Run(import.Id, None);
            return 0;
        });
        return await Read(import.Id);
    }

    private async Task<ImportRow> Taken(ImportRow import)
    {
        Assert.Null((await With<Reply<Guid>, ApplyImport>(a => a.Confirm(import.Id, "Wilma", None))).Refusal);
        await With<int, ApplyImport>(async a =>
        {
            await a.Run(import.Id, None);
            return 0;
        });
        return await Read(import.Id);
    }

    private Task<ImportRow> Read(Guid id) => hamlet.InStore(s => s.Imports.AsNoTracking().FirstAsync(i => i.Id == id));

    private Task<IReadOnlyList<ImportLineView>> Lines(ImportRow import, LineState state) =>
        With<IReadOnlyList<ImportLineView>, ImportList>(l => l.Lines(import.Id, state, 0, None));

    private static (int New, int Changed, int Same, int Doubtful, int Wrong) Counts(ImportRow i) =>
        (i.New, i.Changed, i.Same, i.Doubtful, i.Wrong);

    private Task<string> Register() =>
        With<string, RegisterExport>(async e =>
        {
            using var all = new MemoryStream();
            await TableWriter.Csv(all, RegisterExport.RegisterHeads, e.Register(None));
            return Encoding.UTF8.GetString(all.ToArray());
        });

    private const string One =
        "Isk Mills,Dye house,6 Weir Street,RPZ,Corvane,Lock 40,0.75,D-100,health,31/03/2025,P,30/04/2026";

    [Fact]
    public async Task Nothing_is_written_until_somebody_says_yes_and_then_the_due_list_is_right()
    {
        var before = await Register();
        var import = await Checked(Heads, One);
        Assert.Equal((1, 0, 0, 0, 0), Counts(import));
        Assert.Equal(before, await Register());
        await Taken(import);
        var row = await hamlet.InStore(s =>
            s.Assemblies.Include(a => a.Place!).ThenInclude(p => p.Owner).FirstAsync(a => a.Serial == "D-100")
        );
        Assert.Equal(
            ("RP", "3/4 in", "high", "four-cock", "Dye house", "Isk Mills"),
            (row.Type, row.Size, row.Hazard, row.Body, row.Place!.Name, row.Place.Owner!.Name)
        );
        Assert.Equal((new DateOnly(2026, 4, 30), "Announced"), (row.NextDue, row.DueCause));
        Assert.Equal((new DateOnly(2025, 3, 31), "pass"), (row.BroughtOn, row.BroughtOutcome));
        // What was brought in is no test of ours.
        Assert.Null(row.LastOutcome);
        Assert.Equal(0, await hamlet.InStore(s => s.Runs.CountAsync(r => r.AssemblyId == row.Id)));
    }

    [Fact]
    public async Task What_is_wrong_says_where_and_why_and_goes_back_as_a_file()
    {
        var import = await Checked(
            Heads,
            One,
            "Isk Mills,Dye house,6 Weir Street,Atmospheric,Corvane,A-1,1,D-101,low,,,",
            "Isk Mills,Dye house,6 Weir Street,DC,Corvane,Twin 40,1,,low,,,",
            "Isk Mills,Dye house,6 Weir Street,DC,Corvane,Twin 40,1,D-103,low,31/02/2025,P,",
            "Isk Mills,Dye house,6 Weir Street,DC,Corvane,Twin 40,1,D-104,low,01/02/2025,P,,more,cells"
        );
        Assert.Equal((1, 0, 0, 0, 4), Counts(import));
        var wrong = await Lines(import, LineState.Wrong);
        Assert.Equal(
            [(3, "Device Type"), (4, "Serial No"), (5, "Last Test"), (6, "")],
            wrong.Select(l => (l.Row.Number, l.Remarks[0].Column))
        );
        var back = await With<List<string>, ImportList>(async l =>
        {
            var whys = new List<string>();
            await foreach (var (_, why) in l.NotTaken(import.Id, None))
                whys.Add(why);
            return whys;
        });
        Assert.Equal(4, back.Count);
        Assert.Contains("Atmospheric", back[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_same_file_again_changes_nothing_and_another_one_only_what_differs()
    {
        await Taken(await Checked(Heads, One));
        Assert.Equal((0, 0, 1, 0, 0), Counts(await Checked(Heads, One)));
        var second = await Checked(Heads, One.Replace("Lock 40", "Lock 60", StringComparison.Ordinal));
        Assert.Equal((0, 1, 0, 0, 0), Counts(second));
        await Taken(second);
        var change = await hamlet.InStore(s => s.Changes.SingleAsync(c => c.Field == "model"));
        Assert.Equal(("Lock 40", "Lock 60", "Wilma", "brought in"), (change.From, change.To, change.By, change.How));
    }

    [Fact]
    public async Task A_serial_that_is_alike_is_doubtful_until_somebody_says_what_it_is()
    {
        var import = await Checked(
            Heads,
            "Mill Inns,Mill inn,1 Weir Street,DC,Corvane,Twin 40,1,c 70,low,,,",
            "Mill Inns,Mill inn,1 Weir Street,DC,Corvane,Twin 40,1,C/71,low,,,",
            "Mill Inns,Mill inn,1 Weir Street,RP,Corvane,Lock 40,1,C-71,high,,,"
        );
        Assert.Equal((0, 0, 0, 3, 0), Counts(import));
        Task<Reply<Guid>> Say(int line, string decision) =>
            With<Reply<Guid>, ApplyImport>(a => a.Decide(import.Id, line, decision, None));
        Assert.NotNull((await Say(2, "perhaps")).Refusal);
        Assert.Null((await Say(2, LineDecisions.Same)).Refusal);
        Assert.Null((await Say(3, LineDecisions.New)).Refusal);
        await Taken(import);
        var serials = await hamlet.InStore(s => s.Assemblies.Select(a => a.Serial).Order().ToListAsync());
        Assert.Equal(["C-71", "C/71", "c 70"], serials.Order(StringComparer.Ordinal));
    }

    [Fact]
    public async Task An_import_is_undone_as_a_whole_while_nothing_rests_on_it()
    {
        var before = await Register();
        var import = await Checked(
            Heads,
            One,
            "New House,New house,9 Strand,DC,Corvane,Twin 60,2 in,C-70,low,01/02/2025,F,01/03/2026"
        );
        Assert.Equal((1, 1, 0, 0, 0), Counts(import));
        await Taken(import);
        Assert.NotEqual(before, await Register());
        Assert.Null((await With<Reply<Guid>, UndoImport>(u => u.Of(import.Id, "Wilma", None))).Refusal);
        Assert.Equal(before, await Register());
        Assert.Equal(0, await hamlet.InStore(s => s.BroughtTests.CountAsync()));
        Assert.Equal(1, await hamlet.InStore(s => s.Owners.CountAsync()));
        Assert.Equal(ImportStates.Undone, (await Read(import.Id)).State);
    }

    [Fact]
    public async Task An_import_on_which_something_rests_is_not_undone_and_says_what()
    {
        var import = await Taken(await Checked(Heads, One));
        await hamlet.InStore(async s =>
        {
            s.Stops.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    Day = new(2031, 1, 1),
                    TesterId = hamlet.Tester,
                    AssemblyId = (await s.Assemblies.FirstAsync(a => a.Serial == "D-100")).Id,
                }
            );
            return await s.SaveChangesAsync();
        });
        var refused = await With<Reply<Guid>, UndoImport>(u => u.Of(import.Id, "Wilma", None));
        Assert.Contains("D-100 is in a round", refused.Refusal, StringComparison.Ordinal);
        Assert.Equal(ImportStates.Applied, (await Read(import.Id)).State);
    }

    [Fact]
    public async Task What_was_said_of_a_senders_columns_is_remembered()
    {
        var first = await Bring("Serial,Kind of it,Ours\nX-1,DC,7\n"u8.ToArray());
        await With<Reply<Guid>, BeginImport>(b =>
            b.Say(first.Value, new(["serial", "type", "tag"], [], "", "psid-standard"), None)
        );
        var again = ImportColumns.Read(
            (await Read((await Bring("Ours,Serial,Kind of it\n7,X-1,DC\n"u8.ToArray())).Value)).Columns
        );
        Assert.Equal(["tag", "serial", "type"], again.Select(c => c.Field));
        var other = await Bring("Ours,Serial,Kind of it\n7,X-1,DC\n"u8.ToArray(), sender: "Somebody else");
        Assert.NotEqual("tag", ImportColumns.Read((await Read(other.Value)).Columns)[0].Field);
    }

    [Fact]
    public async Task What_goes_out_comes_back_the_same_into_an_empty_installation()
    {
        await Taken(
            await Checked(
                Heads,
                One,
                "=cmd|'/c calc'!A1,\"Two\nlines\",\"Say \"\"so\"\"\",DC,Corvane,Twin 40,1,D-105,low,01/02/2025,F,",
                "Ångström & Söhne,Kajen,Ö 1,PVB,Thistle & Bore,Hedge,3/4,D-106,low,,,"
            )
        );
        await hamlet.Signed();
        var (register, results) = (await Register(), await Results(hamlet));
        Assert.Contains("'=cmd", register, StringComparison.Ordinal);
        await using var other = new SmallInstallation();
        foreach (var file in new[] { register, results })
        {
            await other.With<int, BeginImport>(async b =>
            {
                using var bytes = new MemoryStream(Encoding.UTF8.GetBytes(file));
                var id = (await b.Take(bytes, "ours.csv", null, "W", None)).Value;
                var columns = ImportColumns.Read(
                    (await other.InStore(s => s.Imports.FirstAsync(i => i.Id == id))).Columns
                );
                Assert.Null(
                    (
                        await b.Say(id, new([.. columns.Select(c => c.Field ?? "")], [], "", "psid-standard"), None)
                    ).Refusal
                );
                return await other.With<int, CheckImport>(async c =>
                {
                    await c.Run(id, None);
                    return await other.With<int, ApplyImport>(async a =>
                    {
                        await a.Confirm(id, "W", None);
                        await a.Run(id, None);
                        return 0;
                    });
                });
            });
        }

        Assert.Equal(register, await RegisterOf(other));
        Assert.Equal(results, await Results(other));
    }

    private static Task<string> RegisterOf(IInstallation of) =>
        of.With<string, RegisterExport>(async e =>
        {
            using var all = new MemoryStream();
            await TableWriter.Csv(all, RegisterExport.RegisterHeads, e.Register(None));
            return Encoding.UTF8.GetString(all.ToArray());
        });

    private static Task<string> Results(IInstallation of) =>
        of.With<string, RegisterExport>(async e =>
        {
            using var all = new MemoryStream();
            await TableWriter.Csv(all, RegisterExport.ResultHeads, e.Results(None));
            return Encoding.UTF8.GetString(all.ToArray());
        });

    [Fact]
    public async Task Bytes_of_two_code_pages_in_one_file_are_both_read()
    {
        byte[] mixed =
        [
            .. "Customer,Serial,Type\nK"u8,
            0xE5,
            .. "sa,E-1,DC\n"u8,
            .. Encoding.UTF8.GetBytes("Käsa,E-2,DC\n"),
            .. "caf"u8,
            0x80,
            .. ",E-3,DC\n"u8,
        ];
        var import = await Checked(mixed);
        Assert.Equal((3, 0, 0, 0, 0), Counts(import));
        Assert.Equal(["Kåsa", "Käsa", "caf€"], (await Lines(import, LineState.New)).Select(l => l.Cells[0]));
    }

    [Fact]
    public async Task Hostile_files_end_in_a_clear_sentence_and_change_nothing()
    {
        var before = await Register();
        Assert.Contains("empty", (await Bring([])).Refusal, StringComparison.Ordinal);
        Assert.Contains("old kind", (await Bring([0xD0, 0xCF, 0x11, 0xE0, 1, 2])).Refusal, StringComparison.Ordinal);
        Assert.Contains("damaged", (await Bring(Packed("xl/workbook.xml", "<no"))).Refusal, StringComparison.Ordinal);
        Assert.Contains("not a workbook", (await Bring(Packed("a.txt", "x"))).Refusal, StringComparison.Ordinal);
        Assert.Contains(
            "far more than it is",
            (await Bring(Packed("xl/workbook.xml", new string('a', 60_000_000)))).Refusal,
            StringComparison.Ordinal
        );
        var long_ = await Checked(
            Encoding.UTF8.GetBytes($"Serial,Type\nF-1,DC\nF-2,{new string('x', 10_000_000)}\nF-3,DC\n")
        );
        Assert.Equal((1, 1), (long_.New, long_.Wrong));
        var open = await Checked("Serial,Type", "G-1,DC", "\"G-2,DC", "G-3,DC");
        Assert.True(open.Wrong >= 1);
        var nul = await Checked("Serial,Type", "H\0-1,DC", "H-2,DC");
        Assert.Equal((1, 1), (nul.New, nul.Wrong));
        var twice = await Bring("Serial,Serial,Type\nI-1,I-2,DC\n"u8.ToArray());
        Assert.Equal(
            ["serial", null, "type"],
            ImportColumns.Read((await Read(twice.Value)).Columns).Select(c => c.Field)
        );
        Assert.Equal(before, await Register());
    }

    [Fact]
    public async Task A_workbook_is_read_like_a_table()
    {
        var import = await Checked(
            Workbook([
                ["Serial", "Type", "Size", "Last Test", "Result"],
                ["J-1", "RPZ", 0.75, 46112.0, "P"],
                ["J-2", "DC", 2.0, "", ""],
            ])
        );
        Assert.Equal((2, 0, 0, 0, 0), Counts(import));
        var line = (await Lines(import, LineState.New))[0];
        Assert.Equal(["J-1", "RPZ", "0.75", "46112", "P"], line.Cells);
        await Taken(import);
        var row = await hamlet.InStore(s => s.Assemblies.FirstAsync(a => a.Serial == "J-1"));
        Assert.Equal(("3/4 in", new DateOnly(2026, 3, 31)), (row.Size, row.BroughtOn!.Value));
    }

    [Fact]
    public async Task Stopping_leaves_the_register_as_it_was()
    {
        var before = await Register();
        var import = await Checked(Heads, One);
        await With<Reply<Guid>, ApplyImport>(a => a.Confirm(import.Id, "Wilma", None));
        Assert.Null((await With<Reply<Guid>, ApplyImport>(a => a.Stop(import.Id, None))).Refusal);
        await With<int, ApplyImport>(async a =>
        {
            await a.Run(import.Id, None);
            return 0;
        });
        Assert.Equal((before, ImportStates.Stopped), (await Register(), (await Read(import.Id)).State));
    }

    [Fact]
    public async Task What_is_being_taken_in_can_be_stopped_before_its_end_and_leaves_nothing()
    {
        var before = await Register();
        var import = await Checked([
            "Serial,Type",
            .. Enumerable.Range(1, 5 * CheckImport.Batch).Select(n => $"STOP-{n},DC"),
        ]);
        await With<Reply<Guid>, ApplyImport>(a => a.Confirm(import.Id, "Wilma", None));
        var running = hamlet.Services.GetRequiredService<RunningImports>();
        // The database works on the caller's thread.
        var taking = Task.Run(() =>
            With<int, ApplyImport>(async a =>
            {
                await a.Run(import.Id, None);
                return 0;
            })
        );
        // From a thread of its own: one of the pool may come when all is taken in.
        var stopped = await Task.Factory.StartNew(
            () =>
            {
                SpinWait.SpinUntil(() => running.Done(import.Id) > 0 || taking.IsCompleted);
                return With<Reply<Guid>, ApplyImport>(a => a.Stop(import.Id, None)).GetAwaiter().GetResult();
            },
            None,
            TaskCreationOptions.LongRunning,
            TaskScheduler.Default
        );
        Assert.Null(stopped.Refusal);
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => taking);
        Assert.Equal((before, ImportStates.Stopped), (await Register(), (await Read(import.Id)).State));
        Assert.Null(running.Done(import.Id));
    }

    [Fact]
    public async Task Further_lines_of_an_assembly_are_further_tests_of_it()
    {
        var import = await Checked(
            "Serial,Type,Test date,Result,Check 1",
            "K-1,DC,2024-05-01,P,2.1",
            "K-1,DC,2025-05-02,F,0.4",
            "K-1,DC,2025-05-02,F,0.4",
            "K-1,DC,2025-05-09,P,2.2"
        );
        await Taken(import);
        var tests = await hamlet.InStore(s => s.BroughtTests.OrderBy(t => t.Day).ToListAsync());
        Assert.Equal(["pass", "fail", "pass"], tests.Select(t => t.Outcome));
        var row = await hamlet.InStore(s => s.Assemblies.SingleAsync(a => a.Serial == "K-1"));
        Assert.Equal(new DateOnly(2026, 5, 9), row.NextDue);
    }

    private static byte[] Packed(string name, string content)
    {
        using var all = new MemoryStream();
        using (var zip = new ZipArchive(all, ZipArchiveMode.Create, leaveOpen: true))
        using (var text = new StreamWriter(zip.CreateEntry(name, CompressionLevel.Optimal).Open()))
            text.Write(content);
        return all.ToArray();
    }

    // The least that is a workbook.
    private static byte[] Workbook(object[][] rows)
    {
        const string Main = "http://schemas.openxmlformats.org/spreadsheetml/2006/main",
            Rel = "http://schemas.openxmlformats.org/officeDocument/2006/relationships",
            Pack = "http://schemas.openxmlformats.org/package/2006";
        var cells = string.Concat(
            rows.Select(
                (r, y) =>
                    $"<row r=\"{y + 1}\">"
                    + string.Concat(
                        r.Select(
                            (c, x) =>
                                c is double n
                                    ? FormattableString.Invariant($"<c r=\"{(char)('A' + x)}{y + 1}\"><v>{n}</v></c>")
                                    : $"<c r=\"{(char)('A' + x)}{y + 1}\" t=\"inlineStr\"><is><t>{c}</t></is></c>"
                        )
                    )
                    + "</row>"
            )
        );
        using var all = new MemoryStream();
        using (var zip = new ZipArchive(all, ZipArchiveMode.Create, leaveOpen: true))
        {
            void Add(string name, string xml)
            {
                using var text = new StreamWriter(zip.CreateEntry(name).Open());
                text.Write(xml);
            }

            Add(
                "[Content_Types].xml",
                $"<Types xmlns=\"{Pack}/content-types\"><Default Extension=\"rels\" ContentType=\"application/vnd.openxmlformats-package.relationships+xml\"/><Default Extension=\"xml\" ContentType=\"application/xml\"/></Types>"
            );
            Add(
                "_rels/.rels",
                $"<Relationships xmlns=\"{Pack}/relationships\"><Relationship Id=\"r1\" Type=\"{Rel}/officeDocument\" Target=\"xl/workbook.xml\"/></Relationships>"
            );
            Add(
                "xl/workbook.xml",
                $"<workbook xmlns=\"{Main}\" xmlns:r=\"{Rel}\"><sheets><sheet name=\"S\" sheetId=\"1\" r:id=\"r1\"/></sheets></workbook>"
            );
            Add(
                "xl/_rels/workbook.xml.rels",
                $"<Relationships xmlns=\"{Pack}/relationships\"><Relationship Id=\"r1\" Type=\"{Rel}/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>"
            );
            Add("xl/worksheets/sheet1.xml", $"<worksheet xmlns=\"{Main}\"><sheetData>{cells}</sheetData></worksheet>");
        }

        return all.ToArray();
    }
}
