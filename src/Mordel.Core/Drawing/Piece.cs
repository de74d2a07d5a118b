using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>When a piece is to be seen.</summary>
internal enum Visible
{
    /// <summary>Always.</summary>
    Always,

    /// <summary>While its part is open.</summary>
    Open,

    /// <summary>While its part is closed.</summary>
    Closed,

    /// <summary>While water runs through its part.</summary>
    Running,

    /// <summary>While none does.</summary>
    Dry,
}

/// <summary>What moves with a part that is turned or pushed.</summary>
internal enum Motion
{
    /// <summary>The bore of a valve, seen from inside.</summary>
    Bore,

    /// <summary>Its handle.</summary>
    Handle,

    /// <summary>A disc that is pushed off its seat.</summary>
    Disc,

    /// <summary>The spring behind it.</summary>
    Coil,

    /// <summary>A screw.</summary>
    Screw,

    /// <summary>The handle of a tap downstream.</summary>
    Tap,
}

/// <summary>Where a word or a number stands beside its part.</summary>
/// <param name="Along">Along the flow from the part's middle.</param>
/// <param name="Outward">Out from the pipe's middle.</param>
/// <param name="Anchor">Which end of the word stands there, as SVG says it; seen along the flow.</param>
internal readonly record struct TextSpot(double Along, double Outward, string Anchor = "middle");

/// <summary>The spot of a word by the way the assembly lies.</summary>
internal readonly record struct TextSpots(TextSpot Lying, TextSpot Upward, TextSpot Downward)
{
    /// <summary>The same spot however it lies.</summary>
    public static implicit operator TextSpots(TextSpot spot) => new(spot, spot, spot);

    /// <summary>The spot for a way.</summary>
    public TextSpot For(FlowDirection flow) =>
        flow switch
        {
            FlowDirection.Upward => Upward,
            FlowDirection.Downward => Downward,
            _ => Lying,
        };
}

/// <summary>
/// A piece of what a part looks like, in the part's own directions: along the flow from its middle, and out from the
/// middle of the pipe toward the cocks. Paths are written as in SVG with such pairs: <c>M-10,18 L-10,8</c>. A piece
/// names its style class and holds no colour.
/// </summary>
internal abstract record Piece
{
    private Piece() { }

    /// <summary>When it is to be seen.</summary>
    public Visible When { get; init; }

    /// <summary>
    /// Whether it keeps its left and right when the assembly is mirrored: handles, and water that falls.
    /// </summary>
    public bool Unmirrored { get; init; }

    /// <summary>A stroke or an outline.</summary>
    public sealed record Line(string Css, string Path) : Piece
    {
        /// <summary>The chamber whose water it shows, for a screen that sets it; null for none.</summary>
        public string? Chamber { get; init; }
    }

    /// <summary>A circle around a point of the part's middle line.</summary>
    public sealed record Ring(string Css, double Radius, double Outward = 0) : Piece;

    /// <summary>A rectangle: its corner that is farthest back and out, its size.</summary>
    public sealed record Block(string Css, double Along, double Outward, double Wide, double Tall) : Piece;

    /// <summary>Water of the space at a port of the part, within an outline.</summary>
    public sealed record Pool(string Port, string Path) : Piece;

    /// <summary>Water of a chamber that a screen sets while it is looked at.</summary>
    /// <param name="Chamber">The chamber.</param>
    /// <param name="At">Its outline.</param>
    /// <param name="HasLevel">Whether it fills from below.</param>
    /// <param name="Beyond">Whether it is there only while the part is open.</param>
    public sealed record Cell(string Chamber, Block At, bool HasLevel = false, bool Beyond = false) : Piece;

    /// <summary>The way along which water is seen running through a part.</summary>
    public sealed record Stream(string Css, string Path) : Piece;

    /// <summary>Pieces that belong together under a style class.</summary>
    public sealed record Within(string Css, ImmutableArray<Piece> Pieces, bool NamesPart = false) : Piece;

    /// <summary>Pieces that move with the part.</summary>
    /// <param name="How">How they move.</param>
    /// <param name="Outward">The point they turn about, out from the pipe's middle.</param>
    /// <param name="Pieces">The pieces as they are while the part is closed and at rest.</param>
    /// <param name="Way">How far a disc goes.</param>
    public sealed record Moving(Motion How, double Outward, ImmutableArray<Piece> Pieces, double Way = 0) : Piece;

    /// <summary>A name.</summary>
    public sealed record Caption(string Css, TextSpots At, string? Text = null, string? TextStanding = null) : Piece;

    /// <summary>The place of the numbers of the instructions that ask for the part.</summary>
    public sealed record Numbers(TextSpots At) : Piece;

    /// <summary>Water that falls out of the part.</summary>
    public sealed record Fall(string Path) : Piece;
}
