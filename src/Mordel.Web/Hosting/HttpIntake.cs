using System.Collections.Immutable;
using System.Net;
using System.Net.Http.Headers;
using System.Text.Json;
using Mordel.Core.Outside;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>
/// Speaks to authorities' services over HTTP as <c>docs/papers.md</c> says. It tries once; when to try again is the
/// outbox's to say.
/// </summary>
/// <param name="http">The client.</param>
/// <param name="simulated">Where the stand-ins of the demo are; null outside of it.</param>
public sealed class HttpIntake(HttpClient http, SimulatedAuthorities? simulated = null) : IAuthorityIntake
{
    /// <summary>How long an answer may take, and how long it may be, in bytes.</summary>
    public static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    private const int LargestAnswer = 256 * 1024,
        MostRulings = 1000,
        LongestWords = 500;

    private static readonly JsonSerializerOptions Form = new(JsonSerializerDefaults.Web);

    /// <summary>A client that keeps to these bounds.</summary>
    public static HttpClient Client() =>
        new(new SocketsHttpHandler { AllowAutoRedirect = false, UseCookies = false })
        {
            Timeout = Patience,
            MaxResponseContentBufferSize = LargestAnswer,
        };

    /// <inheritdoc/>
    public async Task<Delivery> Submit(Submission submission, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(submission);
        if (At(submission.Address, "reports") is not { } address)
            return new Delivery.Declined($"{submission.Address} is no address of a service.");
        using var request = new HttpRequestMessage(HttpMethod.Post, address);
        request.Headers.Add("Idempotency-Key", submission.Key);
        request.Headers.Add("Report-Number", Uri.EscapeDataString(submission.Number));
        request.Headers.Authorization = Who(submission.Secret);
        request.Content = new ByteArrayContent([.. submission.File.Bytes]);
        request.Content.Headers.ContentType = new(submission.File.MediaType);
        try
        {
            using var answer = await http.SendAsync(request, cancel);
            return await Understand(answer, submission, cancel);
        }
        catch (Exception e) when (Unreached(e, cancel))
        {
            return new Delivery.Later($"{submission.Address} {Why(e)}");
        }
    }

    /// <inheritdoc/>
    public async Task<ImmutableArray<IntakeRuling>> Rulings(
        string address,
        string? secret,
        long after,
        CancellationToken cancel
    )
    {
        if (At(address, $"rulings?after={after}") is not { } at)
            return [];
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, at);
            request.Headers.Authorization = Who(secret);
            using var answer = await http.SendAsync(request, cancel);
            if (!answer.IsSuccessStatusCode)
                return [];
            var read = await answer.Content.ReadFromJsonAsync<RulingsAnswer>(Form, cancel);
            return
            [
                .. (read?.Rulings ?? [])
                    .Where(r => r is { Number: > 0, Key: not null })
                    .Take(MostRulings)
                    .Select(r => new IntakeRuling(r.Number, r.Key!, r.Taken, Short(r.Receipt), Short(r.Why))),
            ];
        }
        catch (Exception e) when (Unreached(e, cancel) || e is JsonException)
        {
            return [];
        }
    }

    private static async Task<Delivery> Understand(
        HttpResponseMessage answer,
        Submission submission,
        CancellationToken cancel
    )
    {
        var text = await answer.Content.ReadAsStringAsync(cancel);
        switch ((int)answer.StatusCode)
        {
            case >= 200 and < 300:
                return Field(text, "receipt") is { } receipt
                    ? new Delivery.Accepted(receipt)
                    : new Delivery.Later($"{submission.Address} answered something unreadable.");
            case 408 or 409 or 425 or 429 or >= 500:
                return new Delivery.Later(
                    Field(text, "detail") is { } busy
                        ? $"{submission.Authority}: {busy}"
                        : $"{submission.Address} cannot take it now ({(int)answer.StatusCode}).",
                    After(answer.Headers.RetryAfter)
                );
            case >= 300 and < 400:
                return new Delivery.Declined(
                    $"{submission.Address} has moved to {Short(answer.Headers.Location?.ToString()) ?? "elsewhere"}. "
                        + "Ask the authority, and mend the address in Rules."
                );
            case 401 or 403:
                return new Delivery.Declined(
                    $"{submission.Authority} does not know who calls"
                        + (Field(text, "detail") is { } wants ? $": {wants}" : ".")
                        + (submission.Secret is null ? " Set its key in Rules." : " Set the right key in Rules.")
                );
            default:
                return new Delivery.Declined(
                    Field(text, "detail") is { } why
                        ? $"{submission.Authority}: {why}"
                        : $"{submission.Address} refuses it ({(int)answer.StatusCode})."
                );
        }
    }

    private static AuthenticationHeaderValue? Who(string? secret) => secret is null ? null : new("Bearer", secret);

    // A service of the demo goes by its name: on which port it is found out at each start.
    private Uri? At(string address, string what)
    {
        if (simulated?.At(address) is { } here)
            return new Uri(here, what);
        return
            Uri.TryCreate(address.TrimEnd('/') + "/", UriKind.Absolute, out var uri)
            && (uri.Scheme == Uri.UriSchemeHttps || (uri.Scheme == Uri.UriSchemeHttp && uri.IsLoopback))
            ? new Uri(uri, what)
            : null;
    }

    private static bool Unreached(Exception e, CancellationToken cancel) =>
        e is HttpRequestException or IOException
        || (e is OperationCanceledException && !cancel.IsCancellationRequested);

    private static string Why(Exception e) =>
        e is OperationCanceledException
            ? $"did not answer within {Patience.TotalSeconds:0} seconds; it may have taken it."
        : e
            is HttpRequestException
            {
                HttpRequestError: HttpRequestError.ConnectionError
                    or HttpRequestError.NameResolutionError
                    or HttpRequestError.SecureConnectionError
            }
            ? "cannot be reached."
        : "hung up without an answer; it may have taken it.";

    private static TimeSpan? After(RetryConditionHeaderValue? asked) =>
        asked switch
        {
            { Delta: { } delta } when delta > TimeSpan.Zero => delta,
            { Date: { } date } when date > DateTimeOffset.UtcNow => date - DateTimeOffset.UtcNow,
            _ => null,
        };

    private static string? Field(string text, string name)
    {
        try
        {
            using var document = JsonDocument.Parse(text);
            return
                document.RootElement.ValueKind == JsonValueKind.Object
                && document.RootElement.TryGetProperty(name, out var field)
                && field.ValueKind == JsonValueKind.String
                && field.GetString() is { Length: > 0 } said
                ? Short(said)
                : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static string? Short(string? text) => text?[..Math.Min(text.Length, LongestWords)];

    private sealed record RulingsAnswer(IReadOnlyList<RulingAnswer>? Rulings);

    private sealed record RulingAnswer(long Number, string? Key, bool Taken, string? Receipt, string? Why);
}
