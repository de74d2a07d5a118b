using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>Writes down what a test of a stop is made with, as the register has it.</summary>
public sealed class MakeSetup(ProfileList profiles, ConsentList consents)
{
    /// <summary>The setup; or why no test can be made.</summary>
    /// <param name="run">The run's id.</param>
    /// <param name="stop">The stop.</param>
    /// <param name="register">What the register has of it.</param>
    /// <param name="number">The report's number.</param>
    /// <param name="at">When it begins.</param>
    /// <param name="day">The day of the test.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<RunSetup>> For(
        Guid run,
        StopRow stop,
        Register register,
        string number,
        DateTimeOffset at,
        DateOnly day,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(stop);
        ArgumentNullException.ThrowIfNull(register);
        var (assembly, kit) = (register.Assembly, register.Kit);
        if (await profiles.On(assembly.Authority!.ProfileId, day, cancel) is not { } profile)
            return Reply<RunSetup>.Refused(
                $"The rules {assembly.Authority.ProfileId} of {assembly.Authority.Name} cannot be read. The office "
                    + $"must put a version that can be read into force."
            );
        if (SchoolCatalogue.Named(profile.For(AssemblyTypes.Parse(assembly.Type))?.ProcedureId) is not { } procedure)
            return Reply<RunSetup>.Refused(
                $"This version has no procedure yet for a {assembly.Type} under {profile.Name}."
            );
        if (Kit.Named(kit.Kind) is not { } plumbing)
            return Reply<RunSetup>.Refused($"Kit {kit.Serial} is of a kind that is not known here: {kit.Kind}.");
        if (procedure.Unfit(plumbing) is { } unfit)
            return Reply<RunSetup>.Refused(unfit);
        var setup = SetupWriter.Write(
            run,
            stop.Id,
            number,
            at,
            register,
            profile,
            SetupWriter.Sheet(assembly, kit, procedure, profile, stop.IsSeasonal),
            day
        ) with
        {
            Consent = await Consent(stop, cancel),
        };
        return SetupWriter.WhyNot(setup) is { } why ? Reply<RunSetup>.Refused(why) : setup;
    }

    // What was agreed for this visit, as it stands.
    private async Task<GivenConsent?> Consent(StopRow stop, CancellationToken cancel) =>
        (await consents.Latest([stop.AssemblyId], cancel)).GetValueOrDefault(stop.AssemblyId)
            is { Yes: true, Day: { } day } yes
        && ConsentList.Holds(yes, stop)
            ? new(yes.Name, yes.At, day, yes.From, yes.Until)
            : null;
}
