import app.text.CultureProperty;
import app.text.CultureSwitch;
import app.text.Wording;
import java.awt.BorderLayout;
import java.awt.ComponentOrientation;
import java.awt.Point;
import java.io.PrintStream;
import java.lang.ref.WeakReference;
import java.nio.charset.StandardCharsets;
import java.util.Locale;
import java.util.Map;
import java.util.stream.IntStream;
import javax.swing.Box;
import javax.swing.JFrame;
import javax.swing.JLabel;
import javax.swing.JList;
import javax.swing.JMenu;
import javax.swing.JMenuBar;
import javax.swing.JScrollPane;
import javax.swing.JTextField;
import javax.swing.SwingUtilities;

/** A window whose texts follow the switch; what a person did in it stays. */
public class Frame {
    private static final PrintStream OUT = new PrintStream(System.out, true, StandardCharsets.UTF_8);

    private final JFrame frame = new JFrame();
    private final JLabel title = new JLabel();
    private final JLabel greeting = new JLabel();
    private final JLabel passengers = new JLabel();
    private final JMenu menu = new JMenu();
    private final JTextField field = new JTextField("Runa", 12);
    private final JScrollPane scrolled =
        new JScrollPane(new JList<>(IntStream.range(0, 100).mapToObj(Integer::toString).toArray(String[]::new)));
    private final CultureSwitch cultures;
    private final Wording wording;
    private final CultureProperty property;

    Frame(CultureSwitch cultures) {
        this.cultures = cultures;
        wording = new Wording(cultures);
        property = new CultureProperty(cultures);
        property.addPropertyChangeListener(change -> SwingUtilities.invokeLater(this::show));
        JMenuBar bar = new JMenuBar();
        bar.add(menu);
        frame.setJMenuBar(bar);
        Box box = Box.createVerticalBox();
        box.add(title);
        box.add(greeting);
        box.add(passengers);
        box.add(field);
        frame.add(box, BorderLayout.NORTH);
        frame.add(scrolled);
        show();
        frame.setSize(480, 320);
        frame.setVisible(true);
        frame.validate();
        field.select(1, 3);
        scrolled.getViewport().setViewPosition(new Point(0, 200));
    }

    private void show() {
        frame.applyComponentOrientation(ComponentOrientation.getOrientation(Locale.forLanguageTag(cultures.current())));
        title.setText(wording.boardingTitle());
        greeting.setText(wording.boardingGreeting("Runa"));
        passengers.setText(wording.bookingCountPassengers(3));
        menu.setText(wording.actionBack());
    }

    private void close() {
        property.close();
        frame.dispose();
    }

    @Override
    public String toString() {
        return title.getText() + " | " + greeting.getText() + " | " + passengers.getText() + " | " + menu.getText()
            + " | " + (frame.getComponentOrientation().isLeftToRight() ? "ltr" : "rtl")
            + " | " + field.getText() + " " + field.getSelectedText() + " at " + scrolled.getViewport().getViewPosition().y;
    }

    private static Frame kept;
    private static WeakReference<Frame> shown;
    private static String said;

    public static void main(String[] args) throws Exception {
        CultureSwitch cultures = new CultureSwitch();
        SwingUtilities.invokeAndWait(() -> shown = new WeakReference<>(kept = new Frame(cultures)));
        for (String culture : new String[] {"en", "ar", "de"}) {
            cultures.beginAudit();
            cultures.choose(culture); // from this thread, which is not the interface's
            say(culture);
            OUT.println("stale: " + cultures.audit());
        }
        cultures.load("{\"culture\": \"de\", \"texts\": {\"boarding_title\": \"Neue Karte\"}}");
        say("loaded");
        SwingUtilities.invokeAndWait(() -> kept.close());
        kept = null;
        System.gc();
        cultures.choose("en"); // nobody hears it
        SwingUtilities.invokeAndWait(() -> { });
        for (int i = 0; i < 50 && shown.get() != null; i++) {
            System.gc();
            Thread.sleep(100);
        }
        OUT.println("collected " + (shown.get() == null));
        System.exit(0);
    }

    private static void say(String head) throws Exception {
        SwingUtilities.invokeAndWait(() -> said = head + " " + kept);
        OUT.println(said);
    }
}
