import app.text.*;
import java.awt.ComponentOrientation;
import java.util.List;
import java.util.Locale;
import java.util.prefs.Preferences;
import javafx.application.Platform;
import javafx.beans.binding.Bindings;
import javafx.beans.property.*;
import javafx.fxml.FXMLLoader;
import javafx.geometry.NodeOrientation;
import javafx.scene.Scene;
import javax.swing.*;

abstract class BlockNUMBER {
    static class Main {}

    abstract String chosen();

    void block(
            CultureSwitch cultures, //? !cultures
            Wording wording, //? !wording
            javafx.scene.control.Label title, //? textProperty
            javafx.scene.control.Label greeting, //? textProperty
            JLabel title, //? title.setText
            StringProperty name,
            Scene scene,
            JFrame frame,
            JMenu menu,
            JComboBox<String> language) throws Exception {
BLOCK
    }
}
