using Mordel.Cli;

return await CommandLine.Run(args, Console.In, Console.Out, Console.Error);
