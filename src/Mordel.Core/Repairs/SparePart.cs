namespace Mordel.Core.Repairs;

/// <summary>A spare part as lists give it.</summary>
/// <param name="Make">Of which make it is for.</param>
/// <param name="Model">Of which model.</param>
/// <param name="Size">The nominal size it fits; empty where it fits all.</param>
/// <param name="Name">What it is.</param>
/// <param name="Part">The part of the assembly that it is for, <c>cv1</c>; empty where it is for more than one.</param>
/// <param name="Price">What it costs.</param>
/// <param name="SupplierNumber">The supplier's number.</param>
/// <param name="LeadDays">Days until it is there.</param>
/// <param name="Least">How many should lie in the store.</param>
/// <param name="InStore">How many lie there.</param>
public sealed record SparePart(
    string Make,
    string Model,
    string Size,
    string Name,
    string Part,
    decimal Price,
    string SupplierNumber,
    int LeadDays,
    int Least,
    int InStore
)
{
    /// <summary>Stands for a whole assembly among the parts.</summary>
    public const string Whole = "assembly";
}
