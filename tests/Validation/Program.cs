using System.Globalization;
using Mordel.Validation;

return args switch
{
    ["try", .. var more] => Table.Try(more.FirstOrDefault() ?? ""),
    ["table"] => Table.Write("docs/water-table.md"),
    ["ngspice"] => Spice.Compare("docs/water-outside-check.md"),
    ["plots"] => Plots.Write("docs/plots"),
    ["service"] => Say(InService.Section()),
    ["logs", var file, var many, var seed] => RandomLogs.Write(
        file,
        int.Parse(many, CultureInfo.InvariantCulture),
        int.Parse(seed, CultureInfo.InvariantCulture)
    ),
    _ => Say("table, plots, ngspice, service, try [SCHOOL], logs FILE MANY SEED: run from the project's folder") + 2,
};

static int Say(string text)
{
    Console.WriteLine(text);
    return 0;
}
