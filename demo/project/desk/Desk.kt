import java.io.PrintStream
import line.skerry.desk.CultureSwitch
import line.skerry.desk.WatchText
import line.skerry.desk.Wording

/** A boarding desk in a terminal: a screenful of texts, in one culture after another while it runs. */
fun main(args: Array<String>) {
    val out = PrintStream(System.out, true, "UTF-8")
    val pause = args.firstOrNull()?.toLong() ?: 700L
    val cultures = CultureSwitch()
    val wording = Wording(cultures)
    val watch = WatchText(cultures)
    out.show(cultures, wording, watch)
    cultures.listen { out.show(cultures, wording, watch) }.use {
        for (culture in cultures.supported) {
            cultures.choose(culture)
            Thread.sleep(pause)
        }
    }
}

private fun PrintStream.show(cultures: CultureSwitch, wording: Wording, watch: WatchText) {
    println("[${cultures.current} ${cultures.direction}] ${cultures.displayName(cultures.current)}")
    println("  ${wording.boardingTitle}")
    println("  ${wording.boardingGreeting("Runa")}")
    println("  ${wording.bookingCountPassengers(2)}, ${wording.bookingCountBicycles(5)}")
    println("  ${wording.delayTitle}: ${wording.delayReason}")
    println("  ${watch.watchTitle} - ${watch.watchLate}")
    println("  < ${wording.actionBack}   ${wording.actionNext} >")
}
