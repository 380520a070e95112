import androidx.compose.foundation.layout.Column
import androidx.compose.foundation.layout.fillMaxWidth
import androidx.compose.foundation.layout.height
import androidx.compose.foundation.lazy.LazyColumn
import androidx.compose.foundation.lazy.rememberLazyListState
import androidx.compose.foundation.text.BasicText
import androidx.compose.foundation.text.BasicTextField
import androidx.compose.runtime.Composable
import androidx.compose.runtime.CompositionLocalProvider
import androidx.compose.runtime.getValue
import androidx.compose.runtime.mutableIntStateOf
import androidx.compose.runtime.mutableStateOf
import androidx.compose.runtime.remember
import androidx.compose.runtime.setValue
import androidx.compose.ui.Modifier
import androidx.compose.ui.platform.LocalLayoutDirection
import androidx.compose.ui.platform.testTag
import androidx.compose.ui.test.ExperimentalTestApi
import androidx.compose.ui.test.assertTextEquals
import androidx.compose.ui.test.getUnclippedBoundsInRoot
import androidx.compose.ui.test.onNodeWithTag
import androidx.compose.ui.test.performScrollToIndex
import androidx.compose.ui.test.performTextInput
import androidx.compose.ui.test.runDesktopComposeUiTest
import androidx.compose.ui.unit.LayoutDirection
import androidx.compose.ui.unit.dp
import app.text.CultureSwitch
import app.text.Wording
import java.io.PrintStream

var untouched = 0

@Composable
fun Boarding(cultures: CultureSwitch, wording: Wording, direction: LayoutDirection) {
    CompositionLocalProvider(LocalLayoutDirection provides direction) {
        var name by remember { mutableStateOf("") }
        Column {
            BasicText(wording.boardingTitle, Modifier.testTag("title"))
            BasicText(wording.boardingGreeting("Runa"), Modifier.testTag("greeting"))
            BasicTextField(name, { name = it }, Modifier.testTag("field"))
            Untouched()
            LazyColumn(Modifier.height(60.dp).fillMaxWidth().testTag("list"), rememberLazyListState()) {
                items(100) { BasicText(wording.bookingCountBicycles(it), Modifier.testTag("item$it")) }
            }
            BasicText(cultures.current, Modifier.testTag("culture"))
        }
    }
}

// Reads no text: it is composed once.
@Composable
fun Untouched() {
    untouched++
    BasicText("-")
}

@OptIn(ExperimentalTestApi::class)
fun main() = runDesktopComposeUiTest(400, 300) {
    val out = PrintStream(System.out, true, "UTF-8")
    val cultures = CultureSwitch()
    val wording = Wording(cultures)
    val revision = mutableIntStateOf(0)
    cultures.whenRead { revision.intValue }
    cultures.listen { revision.intValue++ }
    setContent { Boarding(cultures, wording, if (cultures.direction == "rtl") LayoutDirection.Rtl else LayoutDirection.Ltr) }
    onNodeWithTag("field").performTextInput("Runa")
    onNodeWithTag("list").performScrollToIndex(50)

    fun show() {
        waitForIdle()
        onNodeWithTag("culture").assertTextEquals(cultures.current)
        onNodeWithTag("title").assertTextEquals(wording.boardingTitle)
        onNodeWithTag("greeting").assertTextEquals(wording.boardingGreeting("Runa"))
        onNodeWithTag("item50").assertTextEquals(wording.bookingCountBicycles(50))
        onNodeWithTag("field").assertTextEquals("Runa")
        val at = if (onNodeWithTag("title").getUnclippedBoundsInRoot().left.value > 0) "right" else "0"
        out.println("${cultures.current} ${wording.boardingTitle} | ${wording.boardingGreeting("Runa")} | typed Runa | at $at | scrolled true")
    }

    show()
    cultures.choose("ar")
    show()
    Thread { cultures.choose("de") }.apply { start() }.join()
    show()
    val before = untouched
    cultures.load("""{"culture": "de", "texts": {"boarding_title": "Neue Karte"}}""")
    show()
    // A new direction composes everything again; texts alone compose what reads them.
    out.println("the untouched was composed ${untouched - before} times for texts")
}
