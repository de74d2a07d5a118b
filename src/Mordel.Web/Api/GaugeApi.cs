using System.Net.WebSockets;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Mordel.Core.Outside;
using Mordel.Core.Serialization;
using Mordel.Data.Accounts;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>
/// The door of gauges that stream: a bridge sends lines for a run, the run's screen gets them; a simulated gauge can
/// stand in.
/// </summary>
public static class GaugeApi
{
    private const int LongestMessage = 4096,
        MostScreens = 8,
        MostBridges = 4;

    /// <summary>Maps the endpoints.</summary>
    public static void MapGaugeApi(this IEndpointRouteBuilder app)
    {
        var gauge = app.MapGroup("/api/runs/{id:guid}/gauge")
            .RequireAuthorization(Policies.ApiField)
            .WithTags("Gauges");
        gauge
            .MapGet("", Listen)
            .WithSummary("Lines of the gauge on a run")
            .WithDescription(
                "A WebSocket: JSON lines as /formats/gauge-line.schema.json describes, in the run's unit. "
                    + "simulated=steady|drops|lags lets a simulated gauge stand in; tell it where the run stands "
                    + "with {\"step\":\"cv1.read\"}."
            );
        gauge
            .MapGet("/bridge", Bridge)
            .WithSummary("Sends the lines of a gauge")
            .WithDescription(
                "A WebSocket for a bridge with a key to write: one JSON object a message or a line, "
                    + "/formats/gauge-line.schema.json. A line that cannot be read is answered with its faults; the "
                    + "next one may follow."
            );
    }

    private static async Task<IResult> Listen(
        Guid id,
        string? simulated,
        HttpContext http,
        FindRun find,
        OpenDoors doors
    )
    {
        if (
            (
                simulated is null
                    ? http.RequestServices.GetRequiredService<IGaugeSource>()
                    : http.RequestServices.GetKeyedService<IGaugeSource>(simulated)
            )
            is not { } source
        )
            return Answers.Bad([new("simulated", "steady, drops or lags")]);
        if (await find.For(id, http.User.Asker(), http.RequestAborted) is not { } run)
            return Answers.NoRun();
        if (Refused(http) is { } refused)
            return refused;
        using var door = Open(doors, id, http, MostScreens);
        if (door is null)
            return TooMany();
        using var socket = await http.WebSockets.AcceptWebSocketAsync();
        using var over = CancellationTokenSource.CreateLinkedTokenSource(door.Over);
        var unit = run.Plan.Resolution.Unit;
        var step = run.State.Current?.Key ?? "";
        // What the screen says, and its good-bye.
        var said = Task.Run(async () =>
        {
            await foreach (var text in Messages(socket, over.Token))
                if (StepOf(text) is { } at)
                    Volatile.Write(ref step, at);
            await over.CancelAsync();
        });
        try
        {
            var lines = source.Lines(new(id, run.Plan, () => Volatile.Read(ref step)), over.Token);
            await foreach (var line in lines)
                await Send(socket, line.In(unit).Write(), over.Token);
        }
        catch (Exception e) when (Gone(e))
        {
            // The screen has gone.
        }
        finally
        {
            await over.CancelAsync();
            await said.WaitAsync(TimeSpan.FromSeconds(2), CancellationToken.None)
                .ContinueWith(_ => { }, TaskScheduler.Default);
        }

        await Close(socket);
        return Results.Empty;
    }

    private static async Task<IResult> Bridge(Guid id, HttpContext http, FindRun find, GaugeHub hub, OpenDoors doors)
    {
        if (http.User.FindFirst(ApiKeyAuthentication.Scope) is not { Value: ApiKeys.Write })
            return Answers.Refused(
                "A bridge needs a key to write; issue one under “For programs”.",
                StatusCodes.Status403Forbidden
            );
        if (await find.For(id, http.User.Asker(), http.RequestAborted) is not { } run)
            return Answers.NoRun();
        if (run.Row.TesterId != http.User.Id())
            return Answers.Refused(
                $"Only a bridge of {run.Setup.Tester.Name}, who makes this run, sends to it.",
                StatusCodes.Status403Forbidden
            );
        if (run.IsSealed)
            return Answers.Refused("This run is signed: nothing is read on it any more.");
        if (Refused(http) is { } refused)
            return refused;
        using var door = Open(doors, id, http, MostScreens + MostBridges);
        if (door is null)
            return TooMany();
        using var socket = await http.WebSockets.AcceptWebSocketAsync();
        var by = http.User.FindFirst(ApiKeyAuthentication.KeyName)?.Value;
        await foreach (var text in Messages(socket, door.Over))
        {
            foreach (
                var one in text.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            )
            {
                if (GaugeLine.Read(one, out var errors) is { } line)
                    hub.Pass(id, line with { By = by });
                else
                    await Send(
                        socket,
                        JsonSerializer.Serialize(
                            Answers.Problem("This line cannot be used.", StatusCodes.Status400BadRequest, errors),
                            RunApi.Json
                        ),
                        door.Over
                    );
            }
        }

        await Close(socket);
        return Results.Empty;
    }

    // It stands on the run, and on the session or the key by which it was opened: when that ends, it ends.
    private static OpenDoors.Door? Open(OpenDoors doors, Guid run, HttpContext http, int most) =>
        doors.Open(
            http.User.Id(),
            most,
            [
                run,
                http.User.SessionId()
                    ?? (
                        Guid.TryParse(http.User.FindFirst(ApiKeyAuthentication.KeyId)?.Value, out var key)
                            ? key
                            : Guid.Empty
                    ),
            ],
            http.RequestAborted
        );

    private static JsonHttpResult<ProblemAnswer> TooMany() =>
        Answers.Refused("Too many gauges are open for you; close one.", StatusCodes.Status429TooManyRequests);

    // Another site's page may not open a socket with our cookie.
    private static JsonHttpResult<ProblemAnswer>? Refused(HttpContext http)
    {
        if (!http.WebSockets.IsWebSocketRequest)
            return Answers.Refused("A WebSocket is wanted here.", StatusCodes.Status400BadRequest);
        var origin = http.Request.Headers.Origin.ToString();
        return
            origin.Length == 0
            || (Uri.TryCreate(origin, UriKind.Absolute, out var from) && from.Authority == http.Request.Host.Value)
            ? null
            : Answers.Refused("This page is not from here.", StatusCodes.Status403Forbidden);
    }

    private static string? StepOf(string text)
    {
        try
        {
            using var said = JsonDocument.Parse(text);
            return
                said.RootElement.ValueKind == JsonValueKind.Object
                && said.RootElement.TryGetProperty("step", out var step)
                && step.ValueKind == JsonValueKind.String
                ? step.GetString()
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static async IAsyncEnumerable<string> Messages(
        WebSocket socket,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        var buffer = new byte[LongestMessage];
        while (socket.State == WebSocketState.Open)
        {
            var length = 0;
            ValueWebSocketReceiveResult got;
            try
            {
                do
                {
                    if (length == buffer.Length)
                        yield break;
                    got = await socket.ReceiveAsync(buffer.AsMemory(length), cancel);
                    length += got.Count;
                } while (!got.EndOfMessage);
            }
            catch (Exception e) when (Gone(e))
            {
                yield break;
            }

            if (got.MessageType == WebSocketMessageType.Close)
                yield break;
            if (got.MessageType == WebSocketMessageType.Text)
                yield return Encoding.UTF8.GetString(buffer, 0, length);
        }
    }

    // The other end has left, in whatever way.
    private static bool Gone(Exception e) =>
        e is OperationCanceledException or WebSocketException or IOException or ObjectDisposedException;

    private static Task Send(WebSocket socket, string text, CancellationToken cancel) =>
        socket.SendAsync(Encoding.UTF8.GetBytes(text), WebSocketMessageType.Text, endOfMessage: true, cancel);

    private static async Task Close(WebSocket socket)
    {
        if (socket.State is not (WebSocketState.Open or WebSocketState.CloseReceived))
            return;
        using var brief = new CancellationTokenSource(TimeSpan.FromSeconds(2));
        try
        {
            await socket.CloseOutputAsync(WebSocketCloseStatus.NormalClosure, null, brief.Token);
        }
        catch (Exception e) when (Gone(e))
        {
            // It has gone already.
        }
    }
}
