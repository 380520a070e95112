import app.text.CultureSwitch;
import app.text.Wording;
import app.text.WordingBundle;
import java.io.ByteArrayInputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.CountDownLatch;
import javafx.application.Platform;
import javafx.beans.binding.Bindings;
import javafx.beans.property.ReadOnlyIntegerWrapper;
import javafx.fxml.FXMLLoader;
import javafx.geometry.NodeOrientation;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.VBox;

/** Bound labels follow the switch; a designed form has its texts from the bundle, and has them anew when it is loaded. */
public class Forms {
    private static final String FORM = "<?xml version=\"1.0\"?><?import javafx.scene.control.*?><?import javafx.scene.layout.*?>"
        + "<VBox xmlns:fx=\"http://javafx.com/fxml\"><Label text=\"%boarding_title\"/><Button text=\"%action_back\"/></VBox>";

    private static Label title;
    private static Label greeting;
    private static TextField field;
    private static Scene scene;

    public static void main(String[] args) throws Exception {
        PrintStream out = new PrintStream(System.out, true, StandardCharsets.UTF_8);
        CultureSwitch cultures = new CultureSwitch();
        Wording wording = new Wording(cultures);
        Platform.startup(() -> {
            title = new Label();
            greeting = new Label();
            field = new TextField();
            ReadOnlyIntegerWrapper revision = new ReadOnlyIntegerWrapper();
            cultures.listen(culture -> Platform.runLater(() -> revision.set(revision.get() + 1)));
            title.textProperty().bind(Bindings.createStringBinding(wording::boardingTitle, revision));
            greeting.textProperty().bind(Bindings.createStringBinding(() -> wording.boardingGreeting(field.getText()), revision, field.textProperty()));
            scene = new Scene(new VBox(title, greeting, field), 400, 300);
            scene.nodeOrientationProperty().bind(Bindings.createObjectBinding(
                () -> cultures.direction().equals("rtl") ? NodeOrientation.RIGHT_TO_LEFT : NodeOrientation.LEFT_TO_RIGHT, revision));
            field.setText("Runa");
            field.selectRange(1, 3);
        });
        for (String culture : new String[] {"en", "ar", "de"}) {
            cultures.choose(culture); // from this thread, which is not the interface's
            CountDownLatch shown = new CountDownLatch(1);
            Platform.runLater(() -> {
                try {
                    VBox form = new FXMLLoader() {{
                        setResources(new WordingBundle(wording));
                    }}.load(new ByteArrayInputStream(FORM.getBytes(StandardCharsets.UTF_8)));
                    out.println(culture + " " + title.getText() + " | " + greeting.getText() + " | " + scene.getEffectiveNodeOrientation() + " | " + field.getText() + " " + field.getSelectedText()
                        + " | " + ((Label) form.getChildren().get(0)).getText() + ", " + ((javafx.scene.control.Button) form.getChildren().get(1)).getText());
                } catch (java.io.IOException e) {
                    out.println(e);
                }
                shown.countDown();
            });
            shown.await();
        }
        Platform.exit();
    }
}
