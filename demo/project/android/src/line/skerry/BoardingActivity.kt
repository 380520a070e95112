package line.skerry

import android.app.Activity
import android.os.Bundle
import android.util.Log
import android.widget.Button
import android.widget.TextView
import android.widget.Toast

class BoardingActivity : Activity() {
    override fun onCreate(state: Bundle?) {
        super.onCreate(state)
        setContentView(R.layout.activity_boarding)
        findViewById<Button>(R.id.show).setOnClickListener {
            Log.d("Boarding", "The pass is shown now")
            Toast.makeText(this, "Hold it to the reader", Toast.LENGTH_LONG).show()
        }
        findViewById<Button>(R.id.back).setOnClickListener { finish() }
    }

    fun board(count: Int) {
        val title = findViewById<TextView>(R.id.title)
        title.text = "On board: " + count
        title.setText(R.string.boarding_title)
        title.contentDescription = getString(R.string.boarding_title) + " " + count
    }
}
