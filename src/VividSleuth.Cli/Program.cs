using System.CommandLine;
using VividSleuth.Cli;

return SleuthCommand.Build(Console.Out, Console.Error).Parse(args).Invoke();
