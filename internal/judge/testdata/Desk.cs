using System;
using System.Text;
using App.Text;

/// <summary>A boarding desk that switches through cultures while it runs.</summary>
public static class Desk
{
    public static void Main()
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        var cultures = new CultureSwitch();
        var wording = new Wording(cultures);
        IDisposable subscription = cultures.Listen(culture => Console.WriteLine("heard " + culture + ": " + wording.BoardingTitle));
        foreach (string culture in new[] { "en", "de", "de-CH", "pl", "he", "ja", "fr" })
        {
            cultures.Choose(culture);
            Console.WriteLine(cultures.Current + " " + cultures.Direction + " " + cultures.DisplayName(culture) + " | " + wording.BoardingGreeting("Runa")
                + " | " + wording.BookingCountBicycles(1) + " | " + wording.BookingCountBicycles(3) + " | " + wording.BookingCountBicycles(5));
        }

        Console.WriteLine(cultures.Choose("xx").ToString().ToLowerInvariant() + " " + cultures.Current);
        subscription.Dispose();
        Console.WriteLine(cultures.Follow(new[] { "fr-CA", "en" }) + " " + cultures.Follow(new[] { "zh-TW", "de-AT" }) + " "
            + cultures.Follow(new[] { "pt-PT" }) + " " + cultures.Follow(new[] { "xx" }));
        Console.WriteLine(cultures.Within("de", () => wording.BoardingTitle + " " + cultures.Within("fi", () => wording.BoardingTitle) + " " + wording.BoardingTitle)
            + " " + wording.BoardingTitle);

        // A listener that switches on: the later ones hear the newer culture once.
        cultures.Listen(culture =>
        {
            Console.WriteLine("first " + culture);
            if (culture == "fi")
            {
                cultures.Choose("pl");
            }
        });
        cultures.Listen(culture => Console.WriteLine("second " + culture));
        cultures.Choose("fi");
        var store = new Store { Saved = "de" };
        var fresh = new CultureSwitch();
        fresh.Remember(store);
        fresh.Choose("he");
        Console.WriteLine(store.Saved);
        var shown = new Wording(fresh);
        fresh.BeginAudit();
        string first = shown.BoardingTitle + shown.BoardingGreeting("Runa");
        Console.WriteLine("[" + string.Join(", ", fresh.Audit()) + "]");
        fresh.Choose("pl");
        first += shown.BoardingTitle + fresh.Within("fi", () => shown.ActionBack);
        Console.WriteLine("[" + string.Join(", ", fresh.Audit()) + "]");
        var other = new Nasty.Text.CultureSwitch();
        var text = new Nasty.Text.Wording(other);
        Console.WriteLine(text.Class + " " + text.TwoWords + " " + text.TwoWords2 + " " + text.Text9lives + " " + text.Injection);
        Console.WriteLine(text.ToStringText("a", 1234, 1234.5m) + " | " + text.Same("n", "c"));
        other.Choose("ar");
        var line = new StringBuilder();
        foreach (int n in new[] { 1, 2 })
        {
            line.Append(text.Forms(n)).Append(' ');
        }

        Console.WriteLine(line + text.Forms(0).Substring(0, 1) + text.Forms(3).Substring(0, 1) + text.Forms(11).Substring(0, 1) + text.Forms(100).Substring(0, 1) + " " + text.TwoWords + " " + text.Injection.Length);
    }

    private sealed class Store : ICultureStore
    {
        public string Saved { get; set; }

        public string Load()
        {
            return this.Saved;
        }

        public void Save(string culture)
        {
            this.Saved = culture;
        }
    }
}
