using Mordel.Proof;

return args switch
{
    ["try", .. var more] => Table.Try(more.FirstOrDefault() ?? ""),
    ["table"] => Table.Write("docs/water-table.md"),
    ["ngspice"] => Spice.Compare("docs/water-outside-check.md"),
    ["service"] => Say(InService.Section()),
    _ => 2,
};

static int Say(string text)
{
    Console.WriteLine(text);
    return 0;
}
