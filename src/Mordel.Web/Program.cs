using Mordel.Web.Hosting;

var builder = WebApplication.CreateBuilder(args);
builder.AddMordel();
var app = builder.Build();
app.UseMordel();
await app.Prepare();
await app.RunAsync();

/// <summary>The web application; public so that tests can host it.</summary>
public partial class Program;
