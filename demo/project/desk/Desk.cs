using System;
using System.Text;
using System.Threading;
using Skerry.Text;

/// <summary>A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs.</summary>
public static class Desk
{
    public static void Main(string[] args)
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        int pause = args.Length > 0 ? int.Parse(args[0]) : 700;
        var cultures = new CultureSwitch();
        var wording = new Wording(cultures);
        var watch = new WatchText(cultures);
        Show(cultures, wording, watch);
        using (cultures.Listen(culture => Show(cultures, wording, watch)))
        {
            foreach (string culture in cultures.Supported)
            {
                cultures.Choose(culture);
                Thread.Sleep(pause);
            }
        }
    }

    private static void Show(CultureSwitch cultures, Wording wording, WatchText watch)
    {
        Console.WriteLine("[" + cultures.Current + " " + cultures.Direction + "] " + cultures.DisplayName(cultures.Current));
        Console.WriteLine("  " + wording.BoardingTitle);
        Console.WriteLine("  " + wording.BoardingGreeting("Runa"));
        Console.WriteLine("  " + wording.BookingCountPassengers(2) + ", " + wording.BookingCountBicycles(5));
        Console.WriteLine("  " + wording.DelayTitle + ": " + wording.DelayReason);
        Console.WriteLine("  " + watch.WatchTitle + " - " + watch.WatchLate);
        Console.WriteLine("  < " + wording.ActionBack + "   " + wording.ActionNext + " >");
    }
}
