//go:build ignore

// A boarding desk in a terminal: a screenful of texts, in one culture after
// another while it runs.
package main

import (
	"fmt"
	"os"
	"strconv"
	"time"

	"skerry/gen/go/text"
)

func main() {
	pause := 700
	if len(os.Args) > 1 {
		pause, _ = strconv.Atoi(os.Args[1])
	}
	cultures := text.NewCultureSwitch()
	wording := text.NewWording(cultures)
	watch := text.NewWatchText(cultures)
	show(cultures, wording, watch)
	stop := cultures.Listen(func(string) { show(cultures, wording, watch) })
	defer stop()
	for _, culture := range cultures.Supported() {
		cultures.Choose(culture)
		time.Sleep(time.Duration(pause) * time.Millisecond)
	}
}

func show(cultures *text.CultureSwitch, wording *text.Wording, watch *text.WatchText) {
	fmt.Printf("[%s %s] %s\n", cultures.Current(), cultures.Direction(), cultures.DisplayName(cultures.Current()))
	fmt.Printf("  %s\n", wording.BoardingTitle())
	fmt.Printf("  %s\n", wording.BoardingGreeting("Runa"))
	fmt.Printf("  %s, %s\n", wording.BookingCountPassengers(2), wording.BookingCountBicycles(5))
	fmt.Printf("  %s: %s\n", wording.DelayTitle(), wording.DelayReason())
	fmt.Printf("  %s - %s\n", watch.WatchTitle(), watch.WatchLate())
	fmt.Printf("  < %s   %s >\n", wording.ActionBack(), wording.ActionNext())
}
