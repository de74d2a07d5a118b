namespace Mordel.Core.Views;

/// <summary>How a streaming needle is spoken and heard.</summary>
/// <param name="Fine">Steps in which it is spoken while it creeps, in the gauge's unit.</param>
/// <param name="Coarse">Steps in which it is spoken while it runs.</param>
/// <param name="Fast">The speed, a second, from which a number that is caught is questioned.</param>
public sealed record NeedleView(decimal Fine, decimal Coarse, decimal Fast);
