using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

/// <summary>
/// Reads a run sheet that was written out as <c>mordel.procedure/1</c>: its steps are as they were then, word for word
/// and move for move.
/// </summary>
public static partial class RunSheetReader
{
    /// <summary>Reads a sheet that was kept as text; null when it is none for that setup.</summary>
    /// <param name="text">Its canonical text.</param>
    /// <param name="setup">What it was written for.</param>
    public static RunSheet? ReadKept(string text, Setup setup) =>
        Node.Root(text, [], Node.DeepestKept) is { } root ? Read(root, setup) : null;

    /// <summary>Reads a sheet; errors go to the node's list.</summary>
    /// <param name="root">Where it stands.</param>
    /// <param name="setup">What it was written for.</param>
    /// <returns>The sheet, or null when there are errors.</returns>
    public static RunSheet? Read(Node root, Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        var before = root.ErrorCount;
        if (!root.IsObject())
            return null;
        root.Format(RunSheetFormat.Name);
        var id = root.Required("procedure")
            ?.OneOf(
                t => t == setup.Rules.ProcedureId ? t : null,
                $"the school that the rules are of; {setup.Rules.ProcedureId}"
            );
        root.Required("kit")
            ?.ValueOf<bool>(t => t == setup.Rig.Kit.Name ? true : null, $"the kit; {setup.Rig.Kit.Name}");
        root.Required("body")?.ValueOf<bool>(t => t == setup.Body.Name ? true : null, $"the body; {setup.Body.Name}");
        var version = root.Required("version")?.Whole(1, 100_000);
        var (title, about) = (root.Required("title")?.Text(200), root.Required("about")?.Text());
        var bring = Words(root, "bring");
        var shows = Flag(root, "stillWaterShowsSo1");
        var nodes = root.Required("stages");
        var stages = (nodes?.Elements() ?? []).Select(n => Stage(n, setup.Rig)).ToList();
        if (root.ErrorCount > before || stages.Count < 2 || stages.Exists(s => s is null or { Steps.IsEmpty: true }))
        {
            if (root.ErrorCount == before)
                root.Wrong("a sheet has stages with steps");
            return null;
        }

        try
        {
            var head = new ProcedureHead(id!, (int)version!.Value, title!, about!, setup.Body.Type, bring)
            {
                StillWaterShowsSo1 = shows,
            };
            return new(head, setup, [.. stages.Select(s => s!)]);
        }
        catch (ArgumentException twice)
        {
            nodes!.Value.Wrong(twice.Message);
            return null;
        }
    }

    private static Stage? Stage(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        var (id, title) = (node.Required("stage")?.Text(60), node.Required("title")?.Text(200));
        var kind = node.Required("kind")
            ?.ValueOf<StageKind>(
                t =>
                    Enum.GetValues<StageKind>()
                        .Cast<StageKind?>()
                        .FirstOrDefault(k => RunSheetFormat.Id(k!.Value) == t),
                "a kind of stage"
            );
        var steps = Steps(node, "steps", rig);
        return id is null || title is null || kind is not { } k ? null : new(id, title, k, steps);
    }

    private static ImmutableArray<Step> Steps(Node node, string name, Rig rig) =>
        node.Optional(name) is { } list ? [.. list.Elements().Select(n => Step(n, rig)).OfType<Step>()] : [];

    private static Step? Step(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        var (id, title, why) = (
            node.Required("step")?.Text(100),
            node.Required("title")?.Text(300),
            node.Required("why")?.Text()
        );
        var acts = (node.Required("instructions")?.Elements() ?? [])
            .Select(n => Instruction(n, rig))
            .OfType<Instruction>()
            .Select(i => (Act)new Act.AsWritten(i));
        if (id is null || title is null || why is null)
            return null;
        return new(id, title, [.. acts], why)
        {
            OnlyIf = node.Optional("onlyIf") is { } only
                ? [.. only.Elements().Select(n => PositionCondition(n, rig)).OfType<PositionCondition>()]
                : [],
            Watch = node.Optional("watch")?.Text(),
            Caution = node.Optional("caution")?.Text(),
            Asks = node.Optional("asks")
                ?.ValueOf<Question>(
                    t =>
                        Enum.GetValues<Question>()
                            .Cast<Question?>()
                            .FirstOrDefault(q => RunSheetFormat.Id(q!.Value) == t),
                    "a question"
                )
                ?? Question.None,
            Capture = Capture(node),
            Holds = Flag(node, "holds"),
            MustAnswer = Flag(node, "mustAnswer"),
            Needs = node.Optional("needs") is { } needs
                ? [.. needs.Elements().Select(n => Condition(n, rig)).OfType<Condition>()]
                : [],
            Offers = Steps(node, "offers", rig),
            Sights = node.Optional("sights") is { } sights
                ? [.. sights.Elements().Select(n => Sight(n, rig)).OfType<Sight>()]
                : [],
        };
    }

    private static Capture? Capture(Node node)
    {
        var provisional = node.Optional("note") is not null;
        if ((provisional ? node.Optional("note") : node.Optional("record")) is not { } named)
            return null;
        if (named.OneOf(TestItem.Named, "an item") is not { } item)
            return null;
        return new(item, provisional)
        {
            OneHose = Flag(node, "oneHose"),
            MustMeetToGoOn = Flag(node, "mustMeetToGoOn"),
            MayBePassed = Flag(node, "mayBePassed"),
            WhenLow = node.Optional("whenLow")?.OneOf(FindingKind.Named, "a finding"),
            RemarkWhenLow = node.Optional("remarkWhenLow")?.Text(),
        };
    }

    private static Sight? Sight(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        var (id, seen, means) = (
            node.Required("sight")?.Text(100),
            node.Required("seen")?.Text(),
            node.Required("means")?.Text()
        );
        if (id is null || seen is null || means is null)
            return null;
        return new(id, seen, means)
        {
            // A kept sheet says it in words; a replay needs no more.
            Shows = Flag(node, "good") ? ObservationKind.AsItShouldBe : ObservationKind.NotKept,
            Good = Flag(node, "good"),
            Findings =
            [
                .. (node.Optional("findings")?.Elements() ?? [])
                    .Select(f => f.OneOf(FindingKind.Named, "a finding"))
                    .OfType<FindingKind>(),
            ],
            Gives = node.Optional("gives") is { } gives ? [.. gives.Members().Select(Answer).OfType<Answer>()] : [],
            FailsAlone = Flag(node, "failsAlone"),
            SitePushesBack = Flag(node, "sitePushesBack"),
            Remark = node.Optional("remark")?.Text(),
            Skips = Words(node, "skips"),
            Takes = node.Optional("takes")
                ?.ValueOf<TakesValue>(
                    t =>
                        t switch
                        {
                            "zero" => TakesValue.ZeroOnDial,
                            "noted" => TakesValue.NumberHeld,
                            _ => null,
                        },
                    "zero or noted"
                )
                ?? TakesValue.Nothing,
            Item = node.Optional("item")?.OneOf(TestItem.Named, "an item"),
            Leads = node.Required("leads")
                ?.ValueOf<LeadsTo>(
                    t =>
                        Enum.GetValues<LeadsTo>()
                            .Cast<LeadsTo?>()
                            .FirstOrDefault(l => RunSheetFormat.Id(l!.Value) == t),
                    "where it leads"
                )
                ?? LeadsTo.GoOn,
            Again = node.Optional("again")?.Text(100),
            Branch = Steps(node, "steps", rig),
        };
    }

    private static Answer? Answer((string Name, Node Value) member)
    {
        var item = TestItem.Named(member.Name);
        if (item is null)
            member.Value.Wrong("is not an item");
        return item is not null && member.Value.YesNo() is { } good ? new(item, good) : null;
    }

    private static Instruction? Instruction(Node node, Rig rig)
    {
        if (!node.IsObject() || node.Required("say")?.Text() is not { } say)
            return null;
        return new(say, [.. (node.Required("moves")?.Elements() ?? []).Select(n => Move(n, rig)).OfType<Move>()]);
    }

    private static Move? Move(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        if (node.Optional("turn") is { } turn)
        {
            var to = node.Required("to")?.Number();
            if (to is < 0 or > 1)
                node.Optional("to")!.Value.Wrong("how far it is open, from 0 to 1");
            return Part(turn, rig) is { } valve && to is >= 0 and <= 1
                ? new Move.Turn(valve, new(to.Value), Flag(node, "slowly"))
                : null;
        }

        if (node.Optional("connect") is { } item)
            return (Part(item, rig), node.Required("to") is { } at ? Part(at, rig) : null) is ({ } hose, { } cock)
                ? new Move.Connect(hose, cock)
                : null;
        if (node.Optional("takeOff") is { } off)
            return Part(off, rig) is { } loose ? new Move.TakeOff(loose, Flag(node, "ifThere")) : null;
        if (node.Optional("holdGaugeLevelWith") is { } level)
            return Part(level, rig) is { } with ? new Move.Hold(new(with)) : null;
        node.Wrong("is no move that is known here");
        return null;
    }

    private static Condition? Condition(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        if (node.Optional("closed") is { } closed)
            return Part(closed, rig) is { } a ? new Condition.ValveClosed(a) : null;
        if (node.Optional("open") is { } open)
            return Part(open, rig) is { } b ? new Condition.ValveOpen(b) : null;
        if (node.Optional("on") is { } on)
            return (Part(on, rig), node.Required("outlet") is { } at ? Part(at, rig) : null) is ({ } item, { } outlet)
                ? new Condition.Coupled(item, outlet)
                : null;
        if (node.Optional("off") is { } off)
            return Part(off, rig) is { } c ? new Condition.Uncoupled(c) : null;
        if (node.Optional("gaugeLevelWith") is { } level)
            return Part(level, rig) is { } d ? new Condition.GaugeHeldAt(d) : null;
        if (node.Optional("purged") is { } purged)
            return
                purged.ValueOf<Side>(
                    t =>
                        t switch
                        {
                            "high" => Side.High,
                            "low" => Side.Low,
                            _ => null,
                        },
                    "a side; high or low"
                )
                    is { } side
                ? new Condition.SidePurged(side)
                : null;
        node.Wrong("is no condition that is known here");
        return null;
    }

    private static PartId? Part(Node node, Rig rig) =>
        node.ValueOf<PartId>(t => rig.Has(new(t)) ? new PartId(t) : null, "a part of this rig");

    private static bool Flag(Node node, string name) => node.Optional(name)?.YesNo() ?? false;

    private static ImmutableArray<string> Words(Node node, string name) =>
        node.Optional(name) is { } list ? [.. list.Elements().Select(n => n.Text(300)).OfType<string>()] : [];
}
