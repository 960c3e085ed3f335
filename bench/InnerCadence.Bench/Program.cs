using System.Globalization;
using BenchmarkDotNet.Running;
using InnerCadence.Bench;

if (args is ["fuzz", .. var rest]) Fuzz.Run(rest.Length > 0 ? int.Parse(rest[0], CultureInfo.InvariantCulture) : 1_000_000);
else if (args is ["coverage"]) Simulations.Coverage();
else if (args is ["signature"]) Simulations.Signature();
else if (args is ["claims"]) Simulations.Claims();
else if (args is ["looking"]) await LookingThrough.RunAsync();
else if (args is ["recall"]) Discovering.Recall();
else if (args is ["ear", var folder]) await TheEar.ScoreAsync(folder);
else if (args is ["hear", var minutes]) TheEar.Hear(int.Parse(minutes, CultureInfo.InvariantCulture));
else if (args is ["formats"]) await Media.FormatsAsync();
else if (args is ["sound"]) await Media.SpeedAsync();
else if (args is ["memory"]) Console.WriteLine($"{TenIdeas.BytesAStroke():0} bytes a stroke");
else BenchmarkSwitcher.FromAssembly(typeof(Program).Assembly).Run(args);
