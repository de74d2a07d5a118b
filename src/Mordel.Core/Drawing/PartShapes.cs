using System.Collections.Immutable;
using Mordel.Core.Repairs;

namespace Mordel.Core.Drawing;

/// <summary>
/// What the parts of an opened body look like: paths in a box 120 wide and 40 high, outlines that are filled and lines
/// that are not.
/// </summary>
internal static class PartShapes
{
    /// <summary>A path.</summary>
    /// <param name="Css"><c>solid</c> or <c>line</c>.</param>
    /// <param name="Path">Its points.</param>
    public readonly record struct Shape(string Css, string Path);

    private static readonly ImmutableDictionary<PartForm, ImmutableArray<Shape>> All = new Dictionary<
        PartForm,
        ImmutableArray<Shape>
    >
    {
        [PartForm.Cap] =
        [
            Solid("M42,4 H78 V14 H96 V28 H24 V14 H42 Z"),
            Line("M24,28 V36 H96 V28 M34,28 V36 M86,28 V36"),
        ],
        [PartForm.Cover] =
        [
            Solid("M8,14 H112 V26 H8 Z"),
            Solid("M40,14 C44,4 76,4 80,14 Z"),
            Line("M18,14 V26 M102,14 V26"),
        ],
        [PartForm.Bolts] =
        [
            Solid("M20,8 H36 V16 H20 Z M84,8 H100 V16 H84 Z"),
            Line("M25,16 V34 M31,16 V34 M89,16 V34 M95,16 V34 M25,22 L31,20 M25,28 L31,26 M89,22 L95,20 M89,28 L95,26"),
        ],
        [PartForm.Screw] =
        [
            Solid("M48,6 H72 V14 H48 Z"),
            Line("M55,14 V36 M65,14 V36 M55,20 L65,18 M55,26 L65,24 M55,32 L65,30 M56,10 H64"),
        ],
        [PartForm.Spring] = [Line("M38,3 H82 L38,10 H82 L38,17 H82 L38,24 H82 L38,31 H82 L38,37 H82")],
        [PartForm.Poppet] = [Solid("M55,2 H65 V22 H92 V32 H28 V22 H55 Z"), Line("M34,32 V38 H86 V32")],
        [PartForm.Disc] = [Solid("M26,15 H94 V25 H26 Z"), Line("M54,15 V25 M66,15 V25")],
        [PartForm.Washer] = [Solid("M40,16 H80 L86,24 H34 Z"), Line("M54,16 V24 M66,16 V24")],
        [PartForm.Seat] =
        [
            Solid("M22,26 H42 V10 H50 V34 H22 Z M98,26 H78 V10 H70 V34 H98 Z"),
            Line("M50,10 H70 M50,34 H70"),
        ],
        [PartForm.ORing] =
        [
            Solid("M30,20 A8,8 0 1 1 46,20 A8,8 0 1 1 30,20 Z M74,20 A8,8 0 1 1 90,20 A8,8 0 1 1 74,20 Z"),
            Line("M38,12 H82 M38,28 H82"),
        ],
        [PartForm.Retainer] = [Line("M24,30 C24,6 96,6 96,30 M32,30 C34,14 86,14 88,30 M24,30 H32 M88,30 H96")],
        [PartForm.Module] =
        [
            Solid("M28,4 H92 V36 H28 Z"),
            Line("M40,4 V28 M52,4 V28 M68,4 V28 M80,4 V28 M28,28 H92 M52,8 L68,12 L52,16 L68,20 L52,24"),
        ],
        [PartForm.Stem] = [Solid("M56,2 H64 V38 H56 Z"), Line("M48,10 H72")],
        [PartForm.Diaphragm] = [Line("M12,16 H26 C34,16 34,30 44,30 H76 C86,30 86,16 94,16 H108 M44,34 H76")],
        [PartForm.Piston] = [Solid("M40,12 H80 V36 H40 Z M54,3 H66 V12 H54 Z"), Line("M40,20 H80 M40,26 H80")],
        [PartForm.Clip] = [Line("M46,32 C30,24 34,6 60,6 C86,6 90,24 74,32 M46,32 L42,36 M74,32 L78,36")],
        [PartForm.Sleeve] = [Solid("M16,6 H104 V34 H16 Z"), Line("M16,12 H104 M16,28 H104 M86,6 V34")],
        [PartForm.Plate] = [Solid("M14,16 H106 V24 H14 Z"), Line("M28,16 V24 M92,16 V24")],
        [PartForm.Coupling] =
        [
            Solid(
                "M12,34 C12,4 56,4 56,34 H46 C46,16 22,16 22,34 Z M64,34 C64,4 108,4 108,34 H98 C98,16 74,16 74,34 Z"
            ),
        ],
        [PartForm.Gasket] = [Line("M16,15 H104 M16,25 H104 M16,15 C10,17 10,23 16,25 M104,15 C110,17 110,23 104,25")],
        [PartForm.Hose] =
        [
            Line("M14,30 C30,4 46,36 60,20 C74,4 90,36 104,12 M20,34 C34,10 46,40 64,24 C78,10 92,40 110,16"),
            Solid("M8,28 H20 V38 H8 Z M100,6 H112 V16 H100 Z"),
        ],
        [PartForm.Cock] = [Solid("M40,14 H80 V28 H40 Z M54,28 H66 V38 H54 Z"), Line("M60,14 V6 M48,6 H84")],
        [PartForm.Canopy] = [Solid("M14,32 C18,4 102,4 106,32 Z"), Line("M14,32 V36 H106 V32")],
        [PartForm.Bonnet] =
        [
            Solid("M30,32 V20 C34,6 86,6 90,20 V32 Z M16,20 H30 V28 H16 Z M90,20 H104 V28 H90 Z"),
            Line("M34,32 V38 H86 V32"),
        ],
        [PartForm.Float] = [Solid("M40,6 H80 V14 H86 V34 H34 V14 H40 Z"), Line("M60,34 V40 M40,14 H80")],
        [PartForm.Strainer] =
        [
            Solid("M36,4 H84 V10 H36 Z"),
            Line("M42,10 V36 H78 V10 M42,18 L60,36 M42,10 L68,36 M52,10 L78,36 M66,10 L78,22"),
        ],
        [PartForm.Shutoff] = [Solid("M14,16 H38 V10 H82 V16 H106 V30 H82 V36 H38 V30 H14 Z"), Line("M60,10 V3 H96")],
        [PartForm.Body] = [Solid("M14,14 H34 V4 H50 V14 H70 V4 H86 V14 H106 V34 H14 Z")],
    }.ToImmutableDictionary();

    /// <summary>The paths of a form.</summary>
    public static ImmutableArray<Shape> Of(PartForm form) => All[form];

    private static Shape Solid(string path) => new("solid", path);

    private static Shape Line(string path) => new("line", path);
}
