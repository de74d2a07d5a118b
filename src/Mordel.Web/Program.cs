using Mordel.Data.Startup;
using Mordel.Web.Hosting;

try
{
    OwnFiles.Alone();
    var builder = WebApplication.CreateBuilder(args);
    builder.AddMordel();
    await using var app = builder.Build();
    // The store is opened while the endpoints are laid out; nothing is asked before both are done.
    var preparing = Task.Run(app.Prepare);
    app.UseMordel();
    await preparing;
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
