using System.Collections.Immutable;
using System.Text.Json.Nodes;

namespace Mordel.Core.Views;

/// <summary>Something that can be done on a screen with one press: which entries it makes, and by which key.</summary>
/// <param name="Text">What the button says.</param>
/// <param name="Entries">The entries, as <see cref="EntryTemplate"/> has them.</param>
/// <param name="Key">The key that does it too, as browsers name keys; null for none.</param>
/// <param name="Dialog">What is asked first; null where one press is enough.</param>
public sealed record ActionView(
    string Text,
    ImmutableArray<JsonObject> Entries,
    string? Key = null,
    DialogView? Dialog = null
);

/// <summary>What is asked before entries are made.</summary>
/// <param name="Title">Heading.</param>
/// <param name="Lead">What it is about, in a sentence.</param>
/// <param name="Button">What the button says.</param>
/// <param name="Fields">What is typed or chosen.</param>
public sealed record DialogView(string Title, string Lead, string Button, ImmutableArray<FieldView> Fields)
{
    /// <summary>A button that chooses for all valves at once; null where there is none.</summary>
    public string? Drained { get; init; }
}

/// <summary>A field of a dialog.</summary>
/// <param name="Name">The slot that it fills.</param>
/// <param name="Kind"><c>words</c>, <c>number</c>, <c>line</c> (one line), <c>valve</c>, <c>choice</c>,
/// <c>many</c> (several can be ticked), <c>date</c> or <c>tick</c>.</param>
/// <param name="Label">What stands beside it.</param>
public sealed record FieldView(string Name, string Kind, string Label)
{
    /// <summary>What stands in it at first.</summary>
    public string Value { get; init; } = "";

    /// <summary>What is said when nothing usable stands in it; null where it may be left empty.</summary>
    public string? Missing { get; init; }

    /// <summary>What its text must match; null for any.</summary>
    public string? Pattern { get; init; }

    /// <summary>The most characters.</summary>
    public int Most { get; init; } = 1000;

    /// <summary>What can be chosen; empty for fields that are typed.</summary>
    public ImmutableArray<OptionView> Options { get; init; } = [];

    /// <summary>Words offered for it.</summary>
    public ImmutableArray<string> Chips { get; init; } = [];

    /// <summary>How a valve stands on a line that was drained for the season; null for other fields.</summary>
    public string? WhenDrained { get; init; }
}

/// <summary>Something that can be chosen in a field.</summary>
/// <param name="Value">What fills the slot.</param>
/// <param name="Says">In words.</param>
public sealed record OptionView(string Value, string Says);

/// <summary>The number that can be typed now.</summary>
/// <param name="Take">Records it.</param>
/// <param name="Passing">Writes down that the needle is only passing it; null where that says nothing.</param>
/// <param name="Pattern">What it must match.</param>
public sealed record SlateView(ActionView Take, ActionView? Passing, string Pattern);

/// <summary>
/// The watch over the needle: what can be done with it now. Each takes where the needle stands in <c>needle</c>.
/// </summary>
/// <param name="Start">Starts it, or starts it anew.</param>
/// <param name="Note">Writes down where the needle stands meanwhile.</param>
/// <param name="End">Ends it when its time is over.</param>
/// <param name="CutShort">Ends it early, with a reason.</param>
/// <param name="Pattern">What the number of the needle must match.</param>
public sealed record WatchView(ActionView Start, ActionView Note, ActionView End, ActionView CutShort, string Pattern);

/// <summary>
/// All that can be done at a run now. Whoever shows it presents texts and keys, fills slots and sends entries; what may
/// be done, and what it means, is decided here.
/// </summary>
public sealed record RunActionsView
{
    /// <summary>
    /// Confirms the step at hand, the whole stage, or gives the good answer; null where something else is needed.
    /// </summary>
    public ActionView? Confirm { get; init; }

    /// <summary>The number that can be typed now; null where none is asked for.</summary>
    public SlateView? Slate { get; init; }

    /// <summary>The watch over the needle; null where nothing is watched.</summary>
    public WatchView? Watch { get; init; }

    /// <summary>What else may be seen at the step at hand, with the keys from <c>a</c> on.</summary>
    public ImmutableArray<ActionView> Sights { get; init; } = [];

    /// <summary>What is asked above the sights.</summary>
    public string Question { get; init; } = "";

    /// <summary>Steps that may be put in first.</summary>
    public ImmutableArray<ActionView> Offers { get; init; } = [];

    /// <summary>By the line's key: the likely answer to what it asks, with one press.</summary>
    public ImmutableSortedDictionary<string, ActionView> Likely { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>By the line's key: another answer, or something found.</summary>
    public ImmutableSortedDictionary<string, ActionView> Otherwise { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>By the row's key on the page of numbers: records its number.</summary>
    public ImmutableSortedDictionary<string, ActionView> Rows { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>By the row's key on the page of numbers: its sights, the good one first.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<ActionView>> RowSights { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<ActionView>>.Empty;

    /// <summary>By the step's id: repeats the test from there.</summary>
    public ImmutableSortedDictionary<string, ActionView> Again { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>By the entry's id: corrects a number.</summary>
    public ImmutableSortedDictionary<string, ActionView> Correct { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>By the part's name: says what was found at it.</summary>
    public ImmutableSortedDictionary<string, ActionView> Parts { get; init; } =
        ImmutableSortedDictionary<string, ActionView>.Empty;

    /// <summary>What can be done at any time, in order: take back, note, line pressure and the like.</summary>
    public ImmutableArray<ActionView> Tools { get; init; } = [];

    /// <summary>Writes a note.</summary>
    public ActionView? Note { get; init; }

    /// <summary>Takes up a test that was broken off; null while it is not.</summary>
    public ActionView? Resume { get; init; }
}
