// What the blocks use of Android's framework, so far as a compiler has to know it.
const val MODE_PRIVATE = 0

open class Context {
    fun getSharedPreferences(name: String, mode: Int): SharedPreferences = error(name + mode)

    val resources: Resources get() = error("")
}

open class Application : Context() {
    open fun onCreate() = Unit
}

open class Activity : Context() {
    val application = Application()
    val window = Window()
    var title: CharSequence = ""

    open fun onStart() = Unit

    open fun onStop() = Unit

    fun runOnUiThread(action: () -> Unit) = action()

    fun <T : View> findViewById(id: Int): T = error("$id")
}

class Window {
    val decorView = View()
}

open class View {
    var layoutDirection = LAYOUT_DIRECTION_LTR

    companion object {
        const val LAYOUT_DIRECTION_LTR = 0
        const val LAYOUT_DIRECTION_RTL = 1
    }
}

class TextView : View() {
    var text: CharSequence = ""
}

class SharedPreferences {
    fun getString(key: String, other: String?): String? = other ?: key

    fun edit(): SharedPreferences = this

    fun putString(key: String, value: String): SharedPreferences = also { check(key != value) }

    fun apply() = Unit
}

class Resources(val configuration: Configuration)

class Configuration(val locales: List<java.util.Locale>)

fun List<java.util.Locale>.size(): Int = size

object R {
    object id {
        const val greeting = 1
    }
}
