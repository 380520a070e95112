import app.text.CultureProperty;
import app.text.CultureSwitch;
import app.text.Wording;
import java.io.IOException;
import java.io.PrintStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Collections;

/** A boarding desk that switches through cultures while it runs. */
public class Desk {
    public static void main(String[] args) throws Exception {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        if (args.length > 0) { // started again: what was chosen before is chosen now
            CultureSwitch cultures = new CultureSwitch();
            cultures.remember(new FileStore());
            out.println("again " + cultures.current());
            return;
        }
        CultureSwitch cultures = new CultureSwitch();
        Wording wording = new Wording(cultures);
        CultureSwitch.Subscription subscription = cultures.listen(culture -> out.println("heard " + culture + ": " + wording.boardingTitle()));
        for (String culture : Arrays.asList("en", "de", "de-CH", "pl", "he", "ja", "fr")) {
            cultures.choose(culture);
            out.println(cultures.current() + " " + cultures.direction() + " " + cultures.displayName(culture) + " | " + wording.boardingGreeting("Runa")
                + " | " + wording.bookingCountBicycles(1) + " | " + wording.bookingCountBicycles(3) + " | " + wording.bookingCountBicycles(5));
        }
        out.println(cultures.choose("xx") + " " + cultures.current());
        subscription.close();
        cultures.clear();
        out.println(cultures.follow(Arrays.asList("fr-CA", "en")) + " " + cultures.follow(Arrays.asList("zh-TW", "de-AT")) + " "
            + cultures.follow(Collections.singletonList("pt-PT")) + " " + cultures.follow(Collections.singletonList("xx")));
        out.println(cultures.within("de", () -> wording.boardingTitle() + " " + cultures.within("fi", wording::boardingTitle) + " " + wording.boardingTitle())
            + " " + wording.boardingTitle());
        // A listener that switches on: the later ones hear the newer culture once.
        cultures.listen(culture -> {
            out.println("first " + culture);
            if (culture.equals("fi")) {
                cultures.choose("pl");
            }
        });
        cultures.listen(culture -> out.println("second " + culture));
        cultures.choose("fi");
        kept(out);
        String[] saved = { "de" };
        CultureSwitch fresh = new CultureSwitch();
        fresh.remember(new CultureSwitch.Store() {
            @Override
            public String load() {
                return saved[0];
            }

            @Override
            public void save(String culture) {
                saved[0] = culture;
            }
        });
        fresh.choose("he");
        out.println(saved[0]);
        Wording shown = new Wording(fresh);
        fresh.beginAudit();
        shown.boardingTitle();
        shown.boardingGreeting("Runa");
        out.println(fresh.audit());
        fresh.choose("pl");
        shown.boardingTitle();
        fresh.within("fi", shown::actionBack);
        out.println(fresh.audit());
        nasty.text.CultureSwitch other = new nasty.text.CultureSwitch();
        nasty.text.Wording text = new nasty.text.Wording(other);
        out.println(text.classText() + " " + text.twoWords() + " " + text.twoWords2() + " " + text.text9lives() + " " + text.injection());
        out.println(text.toStringText("a", 1234, 1234.5) + " | " + text.same("n", "c"));
        other.choose("ar");
        StringBuilder line = new StringBuilder();
        for (int n : new int[] { 1, 2 }) {
            line.append(text.forms(n)).append(' ');
        }
        out.println(line + text.forms(0).substring(0, 1) + text.forms(3).substring(0, 1) + text.forms(11).substring(0, 1) + text.forms(100).substring(0, 1) + " " + text.twoWords() + " " + text.injection().length());
        more(out, other, text);
    }

    /** Keeps a choice in memory. */
    private static final class Memory implements CultureSwitch.Store {
        private String saved;

        Memory(String saved) {
            this.saved = saved;
        }

        @Override
        public String load() {
            return saved;
        }

        @Override
        public void save(String culture) {
            if (saved == null) {
                throw new IllegalStateException("unsaved");
            }
            saved = culture;
        }
    }

    /** What a person chose is kept, and what the device asks for is not. */
    private static void kept(PrintStream out) {
        Memory store = new Memory("fr-CA");
        CultureSwitch one = new CultureSwitch();
        String said = one.follow(Arrays.asList("ja")) + " ";
        one.remember(store);
        said += one.current() + " " + store.saved + " " + one.follow(Arrays.asList("pl")) + " ";
        one.choose("fr");
        said += store.saved + " ";
        one.clear();
        said += one.current() + store.saved + " " + one.follow("de;q=0.5, fi, *;q=0.1");
        for (String saved : Arrays.asList("iw", "xx", "sh")) {
            CultureSwitch again = new CultureSwitch();
            again.remember(new Memory(saved));
            said += " " + again.current();
        }
        out.println(said);
        one.remember(new Memory(null));
        one.listen(culture -> {
            throw new IllegalStateException("first");
        });
        one.listen(culture -> out.println("still " + culture));
        try {
            one.choose("ar");
        } catch (IllegalStateException e) {
            out.println("caught " + e.getMessage() + " " + one.current());
        }
    }

    @SuppressWarnings("deprecation")
    private static void more(PrintStream out, nasty.text.CultureSwitch other, nasty.text.Wording text) throws InterruptedException {
        other.clear();
        out.println(other.follow(Arrays.asList("sr-RS")) + " " + other.follow(Arrays.asList("sr-Latn-RS")) + " " + other.follow(Arrays.asList("zh-TW")) + " "
            + other.follow(Arrays.asList("zh-CN", "ar-EG")) + " " + other.follow(Collections.emptyList()));
        // Texts are loaded while it runs; what is no message falls back.
        CultureSwitch cultures = new CultureSwitch();
        Wording wording = new Wording(cultures);
        CultureSwitch.Subscription told = cultures.listen(culture -> out.println("loaded " + culture + ": " + wording.boardingTitle()));
        cultures.choose("de");
        StringBuilder loads = new StringBuilder();
        for (String bundle : Arrays.asList(
            "nonsense",
            "{\"culture\":\"de\",\"syntax\":\"other\",\"texts\":{}}",
            "{\"culture\":\"de\",\"texts\":{\"boarding_title\":\"x\",\"boarding_greeting\":\"Hallo {name\"}}",
            "{\"culture\":\"nl\",\"name\":\"Nederlands\",\"direction\":\"ltr\",\"texts\":{\"boarding_title\":\"Instapkaart\",\"booking_count_bicycles\":\"{count, plural, one {# fiets} other {# fietsen}}\"},\"plurals\":{\"one\":\"i = 1 and v = 0\"}}",
            "{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue \\\"Karte\\\" \\u00e4\"}, \"more\": [1, {\"a\": null}]}")) {
            loads.append(cultures.load(bundle) == null ? "taken" : "refused").append(' ');
        }
        out.println(loads + "| " + wording.boardingGreeting("Runa"));
        cultures.choose("nl");
        out.println(cultures.displayName("nl") + " " + wording.bookingCountBicycles(1) + " " + wording.bookingCountBicycles(3) + " " + wording.boardingGreeting("Runa")
            + " " + cultures.supported().size() + " " + cultures.within("fr-CA", cultures::current));
        told.close();
        other.reportMissing((culture, key) -> out.println("missing " + culture + " " + key));
        other.choose("ar");
        text.twoWords();
        text.classText();
        text.classText();
        // A listener that ends itself.
        CultureSwitch.Subscription[] once = new CultureSwitch.Subscription[1];
        once[0] = cultures.listen(culture -> {
            out.println("once " + culture);
            once[0].close();
        });
        CultureSwitch.Subscription twice = cultures.listen(culture -> out.println("twice " + culture));
        cultures.choose("fi");
        cultures.choose("pl");
        twice.close();
        long before = used();
        for (int i = 0; i < 100000; i++) {
            cultures.listen(culture -> out.println(culture)).close();
        }
        out.println(used() - before < 1 << 20 ? "flat" : "grown by " + (used() - before));
        boolean[] right = { true, true };
        Thread[] threads = new Thread[2];
        for (int i = 0; i < 2; i++) {
            int own = i;
            threads[i] = new Thread(() -> {
                String culture = own == 0 ? "de" : "fi";
                for (int n = 0; n < 1000; n++) {
                    right[own] &= cultures.within(culture, () -> cultures.current() + cultures.within("he", cultures::direction) + cultures.current()).equals(culture + "rtl" + culture);
                }
            });
            threads[i].start();
        }
        threads[0].join();
        threads[1].join();
        out.println((right[0] ? "de" : "wrong") + " " + (right[1] ? "fi" : "wrong"));
        out.println(cultures.within("de", () -> wording.goneGreeting("Runa")) + " | " + cultures.within("en", () -> wording.goneGreeting("Runa")));
        CultureProperty property = new CultureProperty(cultures);
        property.addPropertyChangeListener(event -> {
            if (event.getPropertyName().equals("culture")) {
                out.println("bound " + event.getNewValue() + " " + wording.boardingTitle());
            }
        });
        property.setCulture("he");
        property.close();
        out.println("cases " + app.text.Cases.count() + " " + nasty.text.Cases.count() + " " + choices.text.Cases.count());
        cultures.remember(new FileStore());
        cultures.choose("ja");
    }

    private static long used() {
        System.gc();
        return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory();
    }

    /** Keeps the choice in a file. */
    private static final class FileStore implements CultureSwitch.Store {
        private final Path path = Path.of("choice.txt");

        @Override
        public String load() {
            try {
                return Files.exists(path) ? Files.readString(path) : null;
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }

        @Override
        public void save(String culture) {
            try {
                Files.writeString(path, culture);
            } catch (IOException e) {
                throw new UncheckedIOException(e);
            }
        }
    }
}
