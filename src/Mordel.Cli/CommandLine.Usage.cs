namespace Mordel.Cli;

public static partial class CommandLine
{
    private const string Usage = """
        usage: ./mordel demo [--port N] [--data DIR] [--fresh]     set up and start with demo data
               ./mordel serve [--port N] [--data DIR]              start with your own data
               ./mordel test [core|planning|data|web|e2e]          build and test everything
               ./mordel evaluate FILE|-                            test record in, verdict out
               ./mordel simulate FILE|- [--trace FILE]             scenario in, outcome of a simulated test out
               ./mordel diagnose FILE|-                            evidence in, what may be wrong and next looks out
               ./mordel plan FILE|- [--seconds N]                  rounds to be planned in, rounds out
               ./mordel atlas [TYPE] [--into DIR]                  makes what diagnosis compares with (some minutes)
               ./mordel mark FILE|-                                recording of the bench in, marks out
               ./mordel procedure ID --kit KIT [--profile P|FILE] [--body B]
                            [--with strainer,fitted-cocks,bypass-line,seasonal] [--json]
                                                                   a run sheet for a kit, rules and a body
               ./mordel verify FILE [--key FILE]                   checks a report or an archive with published keys
               ./mordel verify                                     checks every seal of your installation
               ./mordel import FILE [--dry-run]                    assemblies and past tests in, CSV or xlsx
               ./mordel export WHAT FILE                           register, results, places, people, kits, due:
                                                                   .csv, .json, .geojson or .ics
               ./mordel archive YEAR FILE                          all sealed reports of a year, one signed ZIP
               ./mordel authority --journal DIR [--port N]         a simulated authority that takes reports
               ./mordel rotate-key                                 signs with a new key from now on
               ./mordel backup FILE [--passphrase-file F]          everything into one file, while it runs
               ./mordel restore FILE [--passphrase-file F] [--replace]
                                                                   puts it into a data folder
               ./mordel rebuild                                    makes the lists anew from what was sealed
               ./mordel move --from STORE --to STORE               carries an installation over to another kind of
                                                                   database; sqlite:FOLDER or postgres:CONNECTION
               ./mordel healthy URL                                asks a server whether it is well
               ./mordel let-in NAME                                a link to a new password, for who lost theirs
        Own profiles and seals are those of your installation; --data DIR names another, and --store where its rows are.
        """;
}
