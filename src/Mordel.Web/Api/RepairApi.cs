using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Mordel.Core.Outside;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>The log of a repair, and its pictures.</summary>
public static class RepairApi
{
    // The picture itself, and what a form has around it.
    private const int LargestForm = IPhotoReader.LargestFile + (64 * 1024);

    /// <summary>Maps the endpoints.</summary>
    public static void MapRepairApi(this IEndpointRouteBuilder app)
    {
        var repairs = app.MapGroup("/api/repairs/{id:guid}")
            .RequireAuthorization(Policies.ApiField)
            .WithTags("Repairs");
        repairs.MapGet("/log", Log).WithSummary("The entries of a repair, in order").Produces<JsonElement>();
        repairs
            .MapPost("/photos", Keep)
            .AddEndpointFilter(new FromOurPages("The picture is kept on this device; reload the page to send it."))
            .WithMetadata(new RequestSizeLimitAttribute(LargestForm))
            .WithSummary("Adds a picture to a repair")
            .WithDescription(
                "A form with photo (JPEG, PNG or WebP of at most 12 MB), entry (a UUID; what is sent twice stands "
                    + "once), of (what it shows) and at. It is decoded and encoded anew: only its pixels are kept."
            )
            .DisableAntiforgery()
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest)
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        app.MapGet("/repairs/{id:guid}/photos/{photo}", Photo).RequireAuthorization(Policies.Field);
    }

    private static async Task<IResult> Log(Guid id, RepairList list, CancellationToken cancel) =>
        await list.Of(id, cancel) is { } file
            ? Results.Text($"[{string.Join(",\n", file.Log.Select(RepairEntryFormat.Write))}]", "application/json")
            : Results.NotFound();

    private static async Task<IResult> Keep(
        Guid id,
        HttpContext http,
        KeepPhoto keep,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (http.User.FindFirst(ApiKeyAuthentication.Scope) is { Value: not ApiKeys.Write })
            return Answers.Refused("This key may only read.", StatusCodes.Status403Forbidden);
        if (!http.Request.HasFormContentType)
            return Answers.Bad([new("", "a form with a picture is wanted here")]);
        IFormCollection form;
        try
        {
            form = await http.Request.ReadFormAsync(cancel);
        }
        catch (Exception e) when (e is IOException or InvalidDataException)
        {
            // It broke off on its way, or is no form: nothing of it is kept.
            return Answers.Bad([new("", "the form did not arrive whole; send it again")]);
        }

        if (form.Files["photo"] is not { } photo)
            return Answers.Bad([new("photo", "a picture is wanted here")]);
        if (photo.Length > IPhotoReader.LargestFile)
            return Answers.Bad([new("photo", $"larger than {IPhotoReader.LargestFile / 1024 / 1024} MB")]);
        if (!Guid.TryParseExact(form["entry"], "D", out var entry) || entry == Guid.Empty)
            return Answers.Bad([new("entry", "an entry’s id; a UUID")]);
        var of = form["of"].ToString().Trim();
        if (of.Length is 0 or > 200 || of.Any(char.IsControl))
            return Answers.Bad([new("of", "say what it shows, in at most 200 characters")]);
        DateTimeOffset? at = DateTimeOffset.TryParse(form["at"], out var said) ? said : null;
        using var bytes = new MemoryStream();
        await photo.CopyToAsync(bytes, cancel);
        var kept = await keep.Of(
            id,
            new EntryId(entry),
            of,
            bytes.ToArray(),
            clock.Entered(at),
            http.User.Id(),
            http.User.Name(),
            cancel
        );
        return await Answers.Of(kept, _ => Task.FromResult(Results.Json(new { entry })));
    }

    private static async Task<IResult> Photo(
        Guid id,
        string photo,
        string? small,
        HttpContext http,
        RepairList list,
        IFiles files,
        CancellationToken cancel
    )
    {
        if (
            await list.Of(id, cancel) is not { } file
            || !file.State.Photos.Any(p => p.Photo == photo)
            || await files.Read(small is null ? PhotoNames.Of(photo).Large : PhotoNames.Of(photo).Small, cancel)
                is not { } bytes
        )
            return Results.NotFound();
        // It is named by what is in it: it never changes.
        http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.File(bytes, "image/jpeg");
    }
}
