import app.text.CultureSwitch;
import app.text.Wording;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.Collections;

/** A boarding desk that switches through cultures while it runs. */
public class Desk {
    public static void main(String[] args) {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
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
    }
}
