namespace Mordel.Core.Rigs;

/// <summary>
/// A type of assembly by its stable name: <c>RP</c>. The set is open: which types there are, and all that is true of
/// one type and not of another, stands in the catalogue and nowhere else.
/// </summary>
/// <param name="Name">The name, as used in files.</param>
public readonly record struct AssemblyType(string Name)
{
    /// <inheritdoc/>
    public override string ToString() => Name;
}
