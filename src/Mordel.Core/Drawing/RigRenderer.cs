using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>Where an assembly's parts stand along the flow.</summary>
/// <param name="Length">Its length.</param>
/// <param name="Along">How far along each part's middle is.</param>
internal sealed record Placement(double Length, IReadOnlyDictionary<PartId, double> Along)
{
    /// <summary>The parts of a body between its two ends, in the order of the flow.</summary>
    public static ImmutableArray<Part> InLine(AssemblyBody body) =>
        [.. body.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site))];

    /// <summary>Parts at equal distances.</summary>
    /// <param name="body">The body.</param>
    /// <param name="length">Its length.</param>
    /// <param name="end">Bare pipe at each end.</param>
    public static Placement Even(AssemblyBody body, double length, double end)
    {
        var parts = InLine(body);
        var slot = (length - (end * 2)) / parts.Length;
        return new(
            length,
            parts.Select((part, i) => (part.Id, At: end + (slot * (i + 0.5)))).ToDictionary(p => p.Id, p => p.At)
        );
    }

    /// <summary>The chambers with where each begins and ends, in the order of the flow.</summary>
    public IEnumerable<(Chamber Chamber, double From, double To)> Chambers(AssemblyBody body)
    {
        double[] edges =
        [
            0,
            .. body.Parts.Where(p => p.Kind is PartKind.Shutoff or PartKind.Check).Select(p => Along[p.Id]),
            Length,
        ];
        for (var i = 0; i + 1 < edges.Length; i++)
            yield return (body.Chambers[i], edges[i], edges[i + 1]);
    }
}

/// <summary>
/// Draws placed parts piece by piece. What a part looks like is a list of pieces (<see cref="Piece"/>), where it stands
/// a <see cref="Placement"/>; how a piece is put on the sheet where drawings differ (what is open, where water is, what
/// a screen will move) is said by whoever derives from this: the run's drawing, which stands still, and the bench's,
/// which lives.
/// </summary>
internal abstract class RigRenderer
{
    /// <summary>What it is written with.</summary>
    protected abstract Pen Pen { get; }

    /// <summary>Which way the water runs on the sheet.</summary>
    protected abstract FlowDirection Flow { get; }

    /// <summary>Whether a piece is seen.</summary>
    protected abstract bool Shows(Part part, Piece piece);

    /// <summary>Numbers of instructions; none unless the drawing has them.</summary>
    protected virtual void Numbers(Part part, double x, double y) { }

    /// <summary>The style of the water at a part's port.</summary>
    protected virtual string Water(Part part, string port) => "";

    /// <summary>What a group of moving pieces begins with.</summary>
    protected virtual string Moves(Part part, Piece.Moving moving, double x, double y) => "<g>";

    /// <summary>Water that falls.</summary>
    protected virtual void Falls(Part part, string path) { }

    /// <summary>Draws pieces of a part.</summary>
    /// <param name="part">The part.</param>
    /// <param name="along">Where its middle is along the flow.</param>
    /// <param name="pieces">The pieces.</param>
    protected void Put(Part part, double along, ImmutableArray<Piece> pieces)
    {
        foreach (var piece in pieces.Where(p => Shows(part, p)))
            Put(part, along, piece);
    }

    private void Put(Part part, double along, Piece piece)
    {
        switch (piece)
        {
            case Piece.Line { Chamber: { } chamber } line:
                Pen.Raw($"<path class=\"{line.Css}\" data-cell=\"{chamber}\" d=\"{Points(line.Path)}\"/>");
                break;
            case Piece.Line line:
                Pen.Line(line.Css, Points(line.Path));
                break;
            case Piece.Pool pool:
                Pen.Line($"water {Water(part, pool.Port)}", Points(pool.Path));
                break;
            case Piece.Stream stream:
                Pen.Raw($"<path class=\"{stream.Css}\"{Streams(part)} d=\"{Points(stream.Path)}\"/>");
                break;
            case Piece.Ring ring:
                var (cx, cy) = Pen.At(along, ring.Outward);
                Pen.Ring(ring.Css, cx, cy, ring.Radius);
                break;
            case Piece.Block block:
                Put(along, block, "");
                break;
            case Piece.Cell cell:
                Put(along, cell.At, Cell(part, along, cell));
                break;
            case Piece.Within within:
                Pen.Raw($"<g class=\"{within.Css}\"{(within.NamesPart ? $" data-part=\"{part.Id}\"" : "")}>");
                Put(part, along, within.Pieces);
                Pen.Raw("</g>");
                break;
            case Piece.Moving moving:
                var (x, y) = Pen.At(along, moving.Outward);
                Pen.Raw(Moves(part, moving, x, y));
                Put(part, along, moving.Pieces);
                Pen.Raw("</g>");
                break;
            case Piece.Caption caption:
                Put(part, along, caption);
                break;
            case Piece.Numbers numbers:
                var spot = numbers.At.For(Flow);
                var (nx, ny) = Pen.At(along + spot.Along, spot.Outward);
                Numbers(part, nx, ny);
                break;
            case Piece.Fall fall:
                Falls(part, Points(fall.Path));
                break;
        }

        string Points(string path) => Pen.Points(path, along, piece.Unmirrored);
    }

    /// <summary>What marks the path of a stream for a screen; nothing where the drawing stands still.</summary>
    protected virtual string Streams(Part part) => "";

    /// <summary>What a cell says for a screen beside its place.</summary>
    protected virtual string Cell(Part part, double along, Piece.Cell cell) => "";

    private void Put(double along, Piece.Block block, string more)
    {
        // From its middle: a mirrored block has its corner on the other side.
        var (x, y) = Pen.At(along + block.Along + (block.Wide / 2), block.Outward);
        Pen.Block(block.Css, x - (block.Wide / 2), y, block.Wide, block.Tall, more);
    }

    private void Put(Part part, double along, Piece.Caption caption)
    {
        var spot = caption.At.For(Flow);
        var stands = Flow is FlowDirection.Upward or FlowDirection.Downward;
        Name(
            along,
            spot,
            (stands ? caption.TextStanding : null) ?? caption.Text ?? part.Label,
            caption.Css,
            caption.Unmirrored
        );
    }

    /// <summary>A name at a spot; whose anchor goes to the other end where the flow is mirrored.</summary>
    protected void Name(double along, TextSpot spot, string text, string css, bool unmirrored = false)
    {
        var (x, y) = unmirrored
            ? (Pen.At(along, 0).X + spot.Along, Pen.At(along, spot.Outward).Y)
            : Pen.At(along + spot.Along, spot.Outward);
        Pen.Word(x, y + Baseline, text, css, unmirrored ? spot.Anchor : Mirrored(spot.Anchor));
    }

    /// <summary>How far below its spot a name's baseline lies.</summary>
    protected virtual double Baseline => 0;

    /// <summary>Whether along the flow is from right to left on the sheet.</summary>
    protected abstract bool IsMirrored { get; }

    private string Mirrored(string anchor) =>
        !IsMirrored ? anchor
        : anchor == "start" ? "end"
        : anchor == "end" ? "start"
        : anchor;
}
