import app.text.CultureStore
import app.text.CultureSwitch
import app.text.Wording
import java.io.PrintStream

/** A boarding desk that switches through cultures while it runs. */
fun main() {
    val out = PrintStream(System.out, true, "UTF-8")
    val cultures = CultureSwitch()
    val wording = Wording(cultures)
    val subscription = cultures.listen { out.println("heard $it: ${wording.boardingTitle}") }
    for (culture in listOf("en", "de", "de-CH", "pl", "he", "ja", "fr")) {
        cultures.choose(culture)
        out.println("${cultures.current} ${cultures.direction} ${cultures.displayName(culture)} | ${wording.boardingGreeting("Runa")}" +
            " | ${wording.bookingCountBicycles(1)} | ${wording.bookingCountBicycles(3)} | ${wording.bookingCountBicycles(5)}")
    }
    out.println("${cultures.choose("xx")} ${cultures.current}")
    subscription.close()
    out.println("${cultures.follow(listOf("fr-CA", "en"))} ${cultures.follow(listOf("zh-TW", "de-AT"))} " +
        "${cultures.follow(listOf("pt-PT"))} ${cultures.follow(listOf("xx"))}")
    out.println(cultures.within("de") { "${wording.boardingTitle} ${cultures.within("fi") { wording.boardingTitle }} ${wording.boardingTitle}" } +
        " ${wording.boardingTitle}")
    // A listener that switches on: the later ones hear the newer culture once.
    cultures.listen {
        out.println("first $it")
        if (it == "fi") {
            cultures.choose("pl")
        }
    }
    cultures.listen { out.println("second $it") }
    cultures.choose("fi")
    var saved = "de"
    val fresh = CultureSwitch()
    fresh.remember(object : CultureStore {
        override fun load(): String? = saved
        override fun save(culture: String) {
            saved = culture
        }
    })
    fresh.choose("he")
    out.println(saved)
    val shown = Wording(fresh)
    fresh.beginAudit()
    shown.boardingTitle
    shown.boardingGreeting("Runa")
    out.println(fresh.audit())
    fresh.choose("pl")
    shown.boardingTitle
    fresh.within("fi") { shown.actionBack }
    out.println(fresh.audit())
    val other = nasty.text.CultureSwitch()
    val text = nasty.text.Wording(other)
    out.println("${text.classText} ${text.twoWords} ${text.twoWords2} ${text.text9lives} ${text.injection}")
    out.println("${text.toStringText("a", 1234, 1234.5)} | ${text.same("n", "c")}")
    other.choose("ar")
    val line = listOf(1L, 2L).joinToString("") { text.forms(it) + " " }
    out.println(line + text.forms(0).take(1) + text.forms(3).take(1) + text.forms(11).take(1) + text.forms(100).take(1) + " ${text.twoWords} ${text.injection.length}")
}
