using System;
using System.IO;
using System.Text;
using System.Threading;
using App.Text;

/// <summary>A boarding desk that switches through cultures while it runs.</summary>
public static class Desk
{
    public static void Main(string[] args)
    {
        Console.OutputEncoding = new UTF8Encoding(false);
        if (args.Length > 0)
        {
            // started again: what was chosen before is chosen now
            var again = new CultureSwitch();
            again.Remember(new FileStore());
            Console.WriteLine("again " + again.Current);
            return;
        }

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
        cultures.Clear();
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
        Kept();
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
        More(other, text);
    }

    // What a person chose is kept, and what the device asks for is not.
    private static void Kept()
    {
        var store = new Store { Saved = "fr-CA" };
        var one = new CultureSwitch();
        string said = one.Follow(new[] { "ja" }) + " ";
        one.Remember(store);
        said += one.Current + " " + store.Saved + " " + one.Follow(new[] { "pl" }) + " ";
        one.Choose("fr");
        said += store.Saved + " ";
        one.Clear();
        said += one.Current + store.Saved + " " + one.Follow("de;q=0.5, fi, *;q=0.1");
        foreach (string saved in new[] { "iw", "xx", "sh" })
        {
            var again = new CultureSwitch();
            again.Remember(new Store { Saved = saved });
            said += " " + again.Current;
        }

        Console.WriteLine(said);
        one.Remember(new Broken());
        one.Listen(culture => { throw new InvalidOperationException("first"); });
        one.Listen(culture => Console.WriteLine("still " + culture));
        try
        {
            one.Choose("ar");
        }
        catch (InvalidOperationException error)
        {
            Console.WriteLine("caught " + error.Message + " " + one.Current);
        }
    }

    private static void More(Nasty.Text.CultureSwitch other, Nasty.Text.Wording text)
    {
        other.Clear();
        Console.WriteLine(other.Follow(new[] { "sr-RS" }) + " " + other.Follow(new[] { "sr-Latn-RS" }) + " " + other.Follow(new[] { "zh-TW" }) + " "
            + other.Follow(new[] { "zh-CN", "ar-EG" }) + " " + other.Follow(new string[0]));

        // Texts are loaded while it runs; what is no message falls back.
        var cultures = new CultureSwitch();
        var wording = new Wording(cultures);
        IDisposable told = cultures.Listen(culture => Console.WriteLine("loaded " + culture + ": " + wording.BoardingTitle));
        cultures.Choose("de");
        string loads = string.Empty;
        foreach (string bundle in new[]
        {
            "nonsense",
            "{\"culture\":\"de\",\"syntax\":\"other\",\"texts\":{}}",
            "{\"culture\":\"de\",\"texts\":{\"boarding_title\":\"x\",\"boarding_greeting\":\"Hallo {name\"}}",
            "{\"culture\":\"nl\",\"name\":\"Nederlands\",\"direction\":\"ltr\",\"texts\":{\"boarding_title\":\"Instapkaart\",\"booking_count_bicycles\":\"{count, plural, one {# fiets} other {# fietsen}}\"},\"plurals\":{\"one\":\"i = 1 and v = 0\"}}",
            "{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue \\\"Karte\\\" \\u00e4\"}, \"more\": [1, {\"a\": null}]}"
        })
        {
            loads += (cultures.Load(bundle) == null ? "taken" : "refused") + " ";
        }

        Console.WriteLine(loads + "| " + wording.BoardingGreeting("Runa"));
        cultures.Choose("nl");
        Console.WriteLine(cultures.DisplayName("nl") + " " + wording.BookingCountBicycles(1) + " " + wording.BookingCountBicycles(3) + " " + wording.BoardingGreeting("Runa")
            + " " + cultures.Supported.Count + " " + cultures.Within("fr-CA", () => cultures.Current));
        told.Dispose();
        other.ReportMissing((culture, key) => Console.WriteLine("missing " + culture + " " + key));
        other.Choose("ar");
        string read = text.TwoWords + text.Class + text.Class;

        // A listener that ends itself.
        IDisposable once = null;
        once = cultures.Listen(culture =>
        {
            Console.WriteLine("once " + culture);
            once.Dispose();
        });
        IDisposable twice = cultures.Listen(culture => Console.WriteLine("twice " + culture));
        cultures.Choose("fi");
        cultures.Choose("pl");
        twice.Dispose();
        long before = GC.GetTotalMemory(true);
        for (int i = 0; i < 100000; i++)
        {
            cultures.Listen(culture => Console.WriteLine(culture + read)).Dispose();
        }

        long grown = GC.GetTotalMemory(true) - before;
        Console.WriteLine(grown < 1 << 20 ? "flat" : "grown by " + grown);
        var right = new[] { true, true };
        var threads = new Thread[2];
        for (int i = 0; i < 2; i++)
        {
            int own = i;
            threads[i] = new Thread(() =>
            {
                string culture = own == 0 ? "de" : "fi";
                for (int n = 0; n < 1000; n++)
                {
                    string said = cultures.Within(culture, () => cultures.Current + cultures.Within("he", () => cultures.Direction) + cultures.Current);
                    right[own] = right[own] && said == culture + "rtl" + culture;
                }
            });
            threads[i].Start();
        }

        threads[0].Join();
        threads[1].Join();
        Console.WriteLine((right[0] ? "de" : "wrong") + " " + (right[1] ? "fi" : "wrong"));
#pragma warning disable 612, 618
        Console.WriteLine(cultures.Within("de", () => wording.GoneGreeting("Runa")) + " | " + cultures.Within("en", () => wording.GoneGreeting("Runa")));
#pragma warning restore 612, 618
        var source = new WordingSource(cultures);
        source.PropertyChanged += (sender, change) =>
        {
            if (change.PropertyName == string.Empty && source["boarding_title"] == source.BoardingTitle && source.FlowDirection == "RightToLeft")
            {
                Console.WriteLine("bound " + source.CultureTag + " " + source.BoardingTitle);
            }
        };
        source.CultureTag = "he";
        source.Dispose();
        Console.WriteLine("cases " + WordingCases.Failures().Count + " " + Nasty.Text.WordingCases.Failures().Count + " " + Choices.Text.WordingCases.Failures().Count);
        cultures.Remember(new FileStore());
        cultures.Choose("ja");
    }

    // Keeps the choice in a file.
    private sealed class FileStore : ICultureStore
    {
        public string Load()
        {
            return File.Exists("choice.txt") ? File.ReadAllText("choice.txt") : null;
        }

        public void Save(string culture)
        {
            File.WriteAllText("choice.txt", culture);
        }
    }

    // Cannot save.
    private sealed class Broken : ICultureStore
    {
        public string Load()
        {
            return null;
        }

        public void Save(string culture)
        {
            throw new InvalidOperationException("unsaved");
        }
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
