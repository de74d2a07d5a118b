using Mordel.Web.Hosting;

try
{
    var builder = WebApplication.CreateBuilder(args);
    builder.AddMordel();
    await using var app = builder.Build();
    app.UseMordel();
    await app.Prepare();
    await app.RunAsync();
    return 0;
}
catch (Exception e) when (Launch.Refusal(e) is { } why)
{
    // A sentence that says what to do, never a trace.
    Console.Error.WriteLine($"Mordel does not start. {why}");
    return 1;
}

/// <summary>The web application; public so that tests can host it.</summary>
public partial class Program;
