import androidx.compose.material3.Text //? Text(
import androidx.compose.runtime.Composable //? Text(
import androidx.compose.runtime.CompositionLocalProvider //? Text(
import androidx.compose.runtime.mutableIntStateOf //? Text(
import androidx.compose.ui.platform.LocalLayoutDirection //? Text(
import androidx.compose.ui.unit.LayoutDirection //? Text(
import app.text.CultureStore
import app.text.CultureSwitch
import app.text.Wording

BLOCK //? class
fun blockNUMBER() { //? ~class
    val cultures = CultureSwitch() //? ~class !cultures
    val wording = Wording(cultures) //? ~class !wording
    val title = TextView() //? ~class
BLOCK //? ~class
} //? ~class
