import app.text.CultureFlow
import app.text.CultureStore
import app.text.CultureSwitch
import app.text.Wording
import java.io.File
import java.io.PrintStream

/** A boarding desk that switches through cultures while it runs. */
fun main(args: Array<String>) {
    val out = PrintStream(System.out, true, "UTF-8")
    if (args.isNotEmpty()) { // started again: what was chosen before is chosen now
        out.println("again " + CultureSwitch().apply { remember(FileStore) }.current)
        return
    }
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
    cultures.clear()
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
    kept(out)
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
    more(out, other, text)
}

/** Keeps a choice in memory; without one it cannot save. */
private class Memory(var saved: String?) : CultureStore {
    override fun load(): String? = saved

    override fun save(culture: String) {
        checkNotNull(saved) { "unsaved" }
        saved = culture
    }
}

/** What a person chose is kept, and what the device asks for is not. */
private fun kept(out: PrintStream) {
    val store = Memory("fr-CA")
    val one = CultureSwitch()
    var said = one.follow(listOf("ja")) + " "
    one.remember(store)
    said += "${one.current} ${store.saved} ${one.follow(listOf("pl"))} "
    one.choose("fr")
    said += "${store.saved} "
    one.clear()
    said += "${one.current}${store.saved} ${one.follow("de;q=0.5, fi, *;q=0.1")}"
    for (saved in listOf("iw", "xx", "sh")) {
        said += " " + CultureSwitch().apply { remember(Memory(saved)) }.current
    }
    out.println(said)
    one.remember(Memory(null))
    one.listen { error("first") }
    one.listen { out.println("still $it") }
    try {
        one.choose("ar")
    } catch (e: IllegalStateException) {
        out.println("caught ${e.message} ${one.current}")
    }
}

@Suppress("DEPRECATION")
fun more(out: PrintStream, other: nasty.text.CultureSwitch, text: nasty.text.Wording) {
    other.clear()
    out.println(listOf(listOf("sr-RS"), listOf("sr-Latn-RS"), listOf("zh-TW"), listOf("zh-CN", "ar-EG"), listOf()).joinToString(" ") { other.follow(it) })
    // Texts are loaded while it runs; what is no message falls back.
    val cultures = CultureSwitch()
    val wording = Wording(cultures)
    val told = cultures.listen { out.println("loaded $it: ${wording.boardingTitle}") }
    cultures.choose("de")
    val loads = listOf(
        """nonsense""",
        """{"culture":"de","syntax":"other","texts":{}}""",
        """{"culture":"de","texts":{"boarding_title":"x","boarding_greeting":"Hallo {name"}}""",
        """{"culture":"nl","name":"Nederlands","direction":"ltr","texts":{"boarding_title":"Instapkaart","booking_count_bicycles":"{count, plural, one {# fiets} other {# fietsen}}"},"plurals":{"one":"i = 1 and v = 0"}}""",
        """{"culture": "de", "texts": {"boarding_title": "Neue \"Karte\" \u00e4"}, "more": [1, {"a": null}]}""",
    ).joinToString(" ") { if (cultures.load(it) == null) "taken" else "refused" }
    out.println("$loads | ${wording.boardingGreeting("Runa")}")
    cultures.choose("nl")
    out.println("${cultures.displayName("nl")} ${wording.bookingCountBicycles(1)} ${wording.bookingCountBicycles(3)} ${wording.boardingGreeting("Runa")}" +
        " ${cultures.supported.size} ${cultures.within("fr-CA") { cultures.current }}")
    told.close()
    other.reportMissing { culture, key -> out.println("missing $culture $key") }
    other.choose("ar")
    text.twoWords
    text.classText
    text.classText
    // A listener that ends itself.
    var once: AutoCloseable? = null
    once = cultures.listen {
        out.println("once $it")
        once?.close()
    }
    val twice = cultures.listen { out.println("twice $it") }
    cultures.choose("fi")
    cultures.choose("pl")
    twice.close()
    val before = used()
    repeat(100_000) { cultures.listen { culture -> out.println(culture) }.close() }
    out.println(if (used() - before < 1 shl 20) "flat" else "grown by ${used() - before}")
    val right = booleanArrayOf(true, true)
    listOf("de", "fi").mapIndexed { i, culture ->
        Thread {
            repeat(1000) {
                val said = cultures.within(culture) { cultures.current + cultures.within("he") { cultures.direction } + cultures.current }
                right[i] = right[i] && said == culture + "rtl" + culture
            }
        }.apply { start() }
    }.forEach { it.join() }
    out.println("${if (right[0]) "de" else "wrong"} ${if (right[1]) "fi" else "wrong"}")
    out.println(cultures.within("de") { wording.goneGreeting("Runa") } + " | " + cultures.within("en") { wording.goneGreeting("Runa") })
    val flow = CultureFlow(cultures)
    cultures.choose("he")
    out.println("bound ${flow.state.value.culture} ${wording.boardingTitle}")
    flow.close()
    out.println("cases ${app.text.failures()} ${nasty.text.failures()} ${choices.text.failures()}")
    cultures.remember(FileStore)
    cultures.choose("ja")
}

private fun used(): Long {
    System.gc()
    return Runtime.getRuntime().totalMemory() - Runtime.getRuntime().freeMemory()
}

/** Keeps the choice in a file. */
private object FileStore : CultureStore {
    private val file = File("choice.txt")

    override fun load(): String? = if (file.exists()) file.readText() else null

    override fun save(culture: String) = file.writeText(culture)
}
