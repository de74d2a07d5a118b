using System.Buffers.Binary;
using System.Text;

namespace Mordel.Documents.Pdf;

/// <summary>
/// What a typeface in a TrueType file says (OpenType 1.9: head, hhea, hmtx, maxp, cmap, OS/2): which letters it has,
/// how wide they are. Measures are thousandths of the size.
/// </summary>
internal sealed class TrueType
{
    // What a reader of a PDF needs of the file; the rest is for editors and layout.
    private static readonly string[] Kept = ["cvt ", "fpgm", "glyf", "head", "hhea", "hmtx", "loca", "maxp", "prep"];

    private readonly byte[] file;
    private readonly Dictionary<string, (int At, int Length)> tables = [];
    private readonly int unitsPerEm;

    /// <summary>Reads it.</summary>
    /// <exception cref="InvalidDataException">It is no TrueType file, or lacks what is needed.</exception>
    public TrueType(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        this.file = file;
        if (file.Length < 12 || U32(0) != 0x00010000)
            throw new InvalidDataException("The font is no TrueType file.");
        for (var i = 0; i < U16(4); i++)
        {
            var at = 12 + (16 * i);
            tables[Encoding.Latin1.GetString(file, at, 4)] = ((int)U32(at + 8), (int)U32(at + 12));
        }

        var (head, hhea, os2) = (Table("head"), Table("hhea"), Table("OS/2"));
        unitsPerEm = U16(head + 18);
        Box = [.. Enumerable.Range(0, 4).Select(i => Scaled(I16(head + 36 + (2 * i))))];
        (Ascent, Descent) = (Scaled(I16(hhea + 4)), Scaled(I16(hhea + 6)));
        CapHeight = U16(os2) >= 2 ? Scaled(I16(os2 + 88)) : Ascent;
        Weight = U16(os2 + 4);
        var (glyphs, measured, hmtx) = (U16(Table("maxp") + 4), U16(hhea + 34), Table("hmtx"));
        Widths = [.. Enumerable.Range(0, glyphs).Select(g => Scaled(U16(hmtx + (4 * Math.Min(g, measured - 1)))))];
        Letters = ReadLetters(Table("cmap"));
    }

    /// <summary>The box around all glyphs: left, bottom, right, top.</summary>
    public IReadOnlyList<int> Box { get; }

    /// <summary>Heights above and, negative, below the line; height of capitals.</summary>
    public int Ascent { get; }

    /// <inheritdoc cref="Ascent"/>
    public int Descent { get; }

    /// <inheritdoc cref="Ascent"/>
    public int CapHeight { get; }

    /// <summary>From 1 to 1000; 400 is regular.</summary>
    public int Weight { get; }

    /// <summary>The glyph of each letter that the typeface has.</summary>
    public IReadOnlyDictionary<char, ushort> Letters { get; }

    /// <summary>How wide each glyph is.</summary>
    public IReadOnlyList<int> Widths { get; }

    /// <summary>
    /// The file without what only editors and layout need, and without the outlines of other glyphs than these; their
    /// numbers stay as they are.
    /// </summary>
    /// <param name="glyphs">The glyphs that are used.</param>
    public byte[] ForPdf(IEnumerable<ushort> glyphs)
    {
        var cut = Outlines(glyphs);
        var kept = Kept.Where(tables.ContainsKey)
            .Select(t => (Name: t, Data: cut.TryGetValue(t, out var made) ? made : Of(t)))
            .ToList();
        var at = 12 + (16 * kept.Count);
        var whole = new byte[at + kept.Sum(t => Whole(t.Data.Length))];
        BinaryPrimitives.WriteUInt32BigEndian(whole, 0x00010000);
        var power = (int)Math.Log2(kept.Count);
        U16To(whole, 4, kept.Count);
        U16To(whole, 6, 16 << power);
        U16To(whole, 8, power);
        U16To(whole, 10, (16 * kept.Count) - (16 << power));
        foreach (var (i, (name, data)) in kept.Index())
        {
            data.CopyTo(whole, at);
            var entry = whole.AsSpan(12 + (16 * i), 16);
            Encoding.Latin1.GetBytes(name, entry);
            BinaryPrimitives.WriteUInt32BigEndian(entry[4..], Sum(whole.AsSpan(at, Whole(data.Length))));
            BinaryPrimitives.WriteInt32BigEndian(entry[8..], at);
            BinaryPrimitives.WriteInt32BigEndian(entry[12..], data.Length);
            at += Whole(data.Length);
        }

        return whole;
    }

    // The outlines of some glyphs and of those that they are made of, and where each begins.
    private Dictionary<string, byte[]> Outlines(IEnumerable<ushort> glyphs)
    {
        var wanted = new SortedSet<int> { 0 };
        foreach (var glyph in glyphs)
            Want(glyph, wanted);
        using var outlines = new MemoryStream();
        var at = new List<int>(Widths.Count + 1);
        for (var glyph = 0; glyph < Widths.Count; glyph++)
        {
            at.Add((int)outlines.Length);
            if (!wanted.Contains(glyph))
                continue;
            var (from, until) = (Begins(glyph), Begins(glyph + 1));
            outlines.Write(file.AsSpan(Table("glyf") + from, until - from));
            outlines.Write(new byte[(-outlines.Length) & 3]);
        }

        at.Add((int)outlines.Length);
        var loca = new byte[at.Count * (LongOffsets ? 4 : 2)];
        foreach (var (i, offset) in at.Index())
            if (LongOffsets)
                BinaryPrimitives.WriteInt32BigEndian(loca.AsSpan(4 * i), offset);
            else
                U16To(loca, 2 * i, offset / 2);
        return new() { ["glyf"] = outlines.ToArray(), ["loca"] = loca };
    }

    private void Want(int glyph, SortedSet<int> wanted)
    {
        if (!wanted.Add(glyph) || Begins(glyph + 1) == Begins(glyph))
            return;
        var at = Table("glyf") + Begins(glyph);
        // Fewer than no contours: made of others, each with its place and perhaps its scale.
        if (I16(at) >= 0)
            return;
        at += 10;
        for (var more = true; more; )
        {
            var how = U16(at);
            Want(U16(at + 2), wanted);
            at += 4 + ((how & 1) != 0 ? 4 : 2);
            at +=
                (how & 0x08) != 0 ? 2
                : (how & 0x40) != 0 ? 4
                : (how & 0x80) != 0 ? 8
                : 0;
            more = (how & 0x20) != 0;
        }
    }

    private bool LongOffsets => U16(Table("head") + 50) == 1;

    private int Begins(int glyph) =>
        LongOffsets ? (int)U32(Table("loca") + (4 * glyph)) : 2 * U16(Table("loca") + (2 * glyph));

    private byte[] Of(string table) => file.AsSpan(tables[table].At, tables[table].Length).ToArray();

    private static uint Sum(ReadOnlySpan<byte> data)
    {
        var sum = 0u;
        for (var i = 0; i < data.Length; i += 4)
            sum += BinaryPrimitives.ReadUInt32BigEndian(data[i..]);
        return sum;
    }

    private static int Whole(int length) => (length + 3) & ~3;

    private static void U16To(byte[] made, int at, int value) =>
        BinaryPrimitives.WriteUInt16BigEndian(made.AsSpan(at), (ushort)value);

    private int Table(string name) =>
        tables.TryGetValue(name, out var found)
            ? found.At
            : throw new InvalidDataException($"The font has no table {name}.");

    // Format 4: stretches of letters of the basic plane, each with an offset to its glyphs or a list of them.
    private Dictionary<char, ushort> ReadLetters(int cmap)
    {
        var at = Enumerable
            .Range(0, U16(cmap + 2))
            .Select(i => cmap + 4 + (8 * i))
            .Where(e => U16(e) is 0 or 3)
            .Select(e => cmap + (int)U32(e + 4))
            .FirstOrDefault(t => U16(t) == 4, -1);
        if (at < 0)
            throw new InvalidDataException("The font has no list of letters that can be read.");
        var found = new Dictionary<char, ushort>();
        var twice = U16(at + 6);
        var (ends, starts, deltas, offsets) = (at + 14, at + 16 + twice, at + 16 + (2 * twice), at + 16 + (3 * twice));
        for (var s = 0; s < twice; s += 2)
        {
            var (start, end, delta, offset) = (U16(starts + s), U16(ends + s), U16(deltas + s), U16(offsets + s));
            for (var letter = start; letter <= end && letter < 0xFFFF; letter++)
            {
                var glyph = offset == 0 ? letter : U16(offsets + s + offset + (2 * (letter - start)));
                if (glyph != 0 && (ushort)(glyph + delta) is var g and > 0)
                    found[(char)letter] = g;
            }
        }

        return found;
    }

    private int Scaled(int units) => (int)Math.Round(units * 1000.0 / unitsPerEm);

    private int U16(int at) => BinaryPrimitives.ReadUInt16BigEndian(file.AsSpan(at));

    private int I16(int at) => BinaryPrimitives.ReadInt16BigEndian(file.AsSpan(at));

    private uint U32(int at) => BinaryPrimitives.ReadUInt32BigEndian(file.AsSpan(at));
}
