namespace Mordel.Core.Training;

/// <summary>
/// Something said to the sheet at the bench. Nothing of the rig moves by it, so that no recording holds it.
/// </summary>
/// <param name="At">Ticks since the bench began.</param>
public abstract record SheetWord(int At)
{
    /// <summary>Says it.</summary>
    internal abstract void To(Guide guide);

    /// <summary>A step for eyes and papers is done.</summary>
    public sealed record Confirmed(int At) : SheetWord(At)
    {
        internal override void To(Guide guide) => guide.Confirm();
    }

    /// <summary>A number is taken.</summary>
    /// <param name="At">Ticks since the bench began.</param>
    /// <param name="Amount">The number, in the sheet's unit.</param>
    public sealed record Taken(int At, decimal Amount) : SheetWord(At)
    {
        internal override void To(Guide guide) => guide.Take(Amount);
    }

    /// <summary>Something is seen.</summary>
    /// <param name="At">Ticks since the bench began.</param>
    /// <param name="Sight">One of the step's sights; another is not heard.</param>
    public sealed record Seen(int At, string Sight) : SheetWord(At)
    {
        internal override void To(Guide guide) => guide.See(Sight);
    }
}
