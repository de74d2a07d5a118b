using System.Collections.Immutable;
using System.IO.Compression;
using System.Text;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

/// <summary>
/// An atlas as a file: a head that names body, model, sets, schools and steps, then the rows column by column, bytes
/// for what was seen and half-precision numbers for what was read, all of it compressed (deflate).
/// </summary>
public static class AtlasFormat
{
    /// <summary>Format name and version, the file's first bytes.</summary>
    public const string Name = "mordel.atlas/1";

    // What no atlas has; a file that says more is broken.
    private const int MostRows = 100_000,
        MostNames = 2_000;

    /// <summary>The file's bytes.</summary>
    public static byte[] Write(Atlas atlas)
    {
        ArgumentNullException.ThrowIfNull(atlas);
        using var bytes = new MemoryStream();
        bytes.Write(Encoding.ASCII.GetBytes(Name));
        using (var packed = new DeflateStream(bytes, CompressionLevel.SmallestSize, leaveOpen: true))
        using (var to = new BinaryWriter(packed, Encoding.UTF8))
        {
            to.Write(atlas.Body.Type.Name);
            to.Write(atlas.Body.Name);
            to.Write(atlas.Model);
            to.Write(atlas.Sets.Length);
            foreach (var set in atlas.Sets)
            {
                to.Write(set.Faults.Length);
                foreach (var fault in set.Faults)
                {
                    to.Write(fault.Part.Value);
                    to.Write(fault.Kind);
                }
            }

            to.Write(atlas.Schools.Length);
            foreach (var school in atlas.Schools)
                Write(to, school);
            var rows = atlas.Rows;
            to.Write(rows.Length);
            foreach (var row in rows)
                to.Write((ushort)row.Set);
            Halves(to, rows.Select(r => r.Supply));
            for (var i = 0; i < Atlas.SpringsOf(atlas.Body).Length; i++)
                Halves(to, rows.Select(r => r.Springs[i]));
            for (var i = 0; i < Outlets(atlas.Body); i++)
                foreach (var row in rows)
                    to.Write((byte)row.Outlets[i]);
            for (var s = 0; s < atlas.Schools.Length; s++)
                Write(to, atlas.Schools[s], [.. rows.Select(r => r.Schools[s])]);
        }

        return bytes.ToArray();
    }

    /// <summary>Reads an atlas.</summary>
    /// <param name="file">The file's bytes.</param>
    /// <exception cref="FormatException">It is no atlas of this version, or broken.</exception>
    public static Atlas Read(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        var head = Encoding.ASCII.GetBytes(Name);
        if (!file.AsSpan().StartsWith(head))
            throw new FormatException($"This is no {Name}: make the atlas again with ./mordel atlas.");
        try
        {
            using var bytes = new MemoryStream(file, head.Length, file.Length - head.Length);
            using var from = new BinaryReader(new DeflateStream(bytes, CompressionMode.Decompress), Encoding.UTF8);
            return Read(from);
        }
        catch (Exception e) when (e is EndOfStreamException or InvalidDataException or IOException)
        {
            throw new FormatException("The atlas is broken: make it again with ./mordel atlas.", e);
        }
    }

    private static Atlas Read(BinaryReader from)
    {
        var (type, name, model) = (from.ReadString(), from.ReadString(), from.ReadString());
        var body = Bodies.All.FirstOrDefault(b => b.Type.Name == type && b.Name == name)
            ?? throw new FormatException($"There is no body {type} {name}.");
        var sets = new FaultSet[Count(from, MostNames)];
        for (var i = 0; i < sets.Length; i++)
        {
            var faults = new PartFault[Count(from, 10)];
            for (var f = 0; f < faults.Length; f++)
                faults[f] = new(new PartId(from.ReadString()), from.ReadString());
            sets[i] = new([.. faults]);
        }

        var schools = new AtlasSchool[Count(from, 20)];
        for (var i = 0; i < schools.Length; i++)
            schools[i] = School(from);
        var rows = Count(from, MostRows);
        var set = new int[rows];
        for (var r = 0; r < rows; r++)
        {
            set[r] = Within(from.ReadUInt16(), sets.Length);
            if (r > 0 && set[r] < set[r - 1])
                throw new InvalidDataException("The cases of a set stand apart.");
        }

        var supply = Halves(from, rows);
        var springs = Atlas.SpringsOf(body).Select(_ => Halves(from, rows)).ToArray();
        var outlets = new byte[Outlets(body)][];
        for (var i = 0; i < outlets.Length; i++)
            outlets[i] = Exactly(from, rows);
        var tests = schools.Select(s => Tests(from, s, rows)).ToArray();
        return new(
            body,
            model,
            [.. sets],
            [.. schools],
            [
                .. Enumerable
                    .Range(0, rows)
                    .Select(r => new AtlasRow(
                        set[r],
                        [.. springs.Select(s => s[r])],
                        supply[r],
                        [.. outlets.Select(o => (PortState)Within(o[r], 8))],
                        [.. tests.Select(t => t[r])]
                    )),
            ]
        );
    }

    private static int Outlets(AssemblyBody body) => ServiceLooks.For(body).Count(l => !l.CanShow.IsEmpty);

    private static void Write(BinaryWriter to, AtlasSchool school)
    {
        to.Write(school.Id);
        to.Write(school.Items.Length);
        foreach (var item in school.Items)
            to.Write(item.Id);
        to.Write(school.Steps.Length);
        foreach (var step in school.Steps)
        {
            to.Write(step.Key);
            to.Write(step.Title);
            to.Write(step.Seconds);
            to.Write(step.Sights.Length);
            foreach (var sight in step.Sights)
                to.Write(sight);
            to.Write(step.Items.Length);
            foreach (var item in step.Items)
                to.Write(item.Id);
        }
    }

    private static AtlasSchool School(BinaryReader from)
    {
        var id = from.ReadString();
        var items = Items(from);
        var steps = new AtlasStep[Count(from, MostNames)];
        for (var i = 0; i < steps.Length; i++)
        {
            var (key, title, seconds) = (from.ReadString(), from.ReadString(), from.ReadInt32());
            var sights = new string[Count(from, 15)];
            for (var s = 0; s < sights.Length; s++)
                sights[s] = from.ReadString();
            steps[i] = new(key, title, [.. sights], Items(from), seconds);
        }

        return new(id, [.. steps], items);
    }

    private static ImmutableArray<TestItem> Items(BinaryReader from)
    {
        var items = new TestItem[Count(from, 50)];
        for (var i = 0; i < items.Length; i++)
        {
            var id = from.ReadString();
            items[i] = TestItem.Named(id) ?? throw new FormatException($"There is no item {id}.");
        }

        return [.. items];
    }

    private static void Write(BinaryWriter to, AtlasSchool school, SchoolRow?[] rows)
    {
        foreach (var row in rows)
            to.Write(row is not null);
        for (var i = 0; i < school.Steps.Length; i++)
            foreach (var row in rows)
                to.Write(row?.Steps[i] ?? (ushort)0);
        for (var i = 0; i < school.Items.Length; i++)
            Halves(to, rows.Select(r => r?.Items[i] ?? float.NaN));
    }

    private static SchoolRow?[] Tests(BinaryReader from, AtlasSchool school, int rows)
    {
        var made = Exactly(from, rows);
        var tests = made.Select(m =>
                m == 0 ? null : new SchoolRow(new ushort[school.Steps.Length], new float[school.Items.Length])
            )
            .ToArray();
        for (var i = 0; i < school.Steps.Length; i++)
            foreach (var test in tests)
            {
                var bits = from.ReadUInt16();
                if (test is not null)
                    test.Steps[i] = bits;
            }

        for (var i = 0; i < school.Items.Length; i++)
        {
            var values = Halves(from, rows);
            for (var r = 0; r < rows; r++)
                if (tests[r] is { } test)
                    test.Items[i] = values[r];
        }

        return tests;
    }

    private static void Halves(BinaryWriter to, IEnumerable<float> values)
    {
        foreach (var value in values)
            to.Write((Half)value);
    }

    private static float[] Halves(BinaryReader from, int count)
    {
        var values = new float[count];
        for (var i = 0; i < count; i++)
            values[i] = (float)from.ReadHalf();
        return values;
    }

    private static byte[] Exactly(BinaryReader from, int count)
    {
        var bytes = from.ReadBytes(count);
        return bytes.Length == count ? bytes : throw new EndOfStreamException();
    }

    private static int Count(BinaryReader from, int most)
    {
        var count = from.ReadInt32();
        return count >= 0 && count <= most ? count : throw new InvalidDataException();
    }

    private static int Within(int index, int below) => index < below ? index : throw new InvalidDataException();
}
