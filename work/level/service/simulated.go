package service

import (
	"encoding/json"
	"net"
	"net/http"
	"strings"
	"sync/atomic"
	"time"

	"zelvik/culture"
	"zelvik/format/numbered"
	"zelvik/message"
	"zelvik/message/icu"
)

// Simulated is a service that stands in for one: it knows no language. It
// answers every text with the culture before it and the glossary's terms put
// in, in letters of the culture's script, the same for the same request. What it does wrong besides is for trying
// how that is handled.
type Simulated struct {
	// Busy answers so many requests with 429, and Retry-After of 0 seconds,
	// before it begins.
	Busy int32
	// Broken answers so many with 500.
	Broken int32
	// Slow lets so many wait for so long.
	Slow  int32
	Delay time.Duration
	// Leaves leaves out texts whose ID contains this.
	Leaves string
	// Forgets leaves the placeholders out of texts whose ID contains this.
	Forgets string
	// Babbles answers with something else.
	Babbles bool
	// Key is the key that it asks for.
	Key string

	asked atomic.Int32
}

// Asked is how many requests came.
func (s *Simulated) Asked() int { return int(s.asked.Load()) }

// ServeHTTP answers one request.
func (s *Simulated) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	s.asked.Add(1)
	var request Request
	switch {
	case s.Key != "" && r.Header.Get("Authorization") != "Bearer "+s.Key:
		http.Error(w, "a key is needed", http.StatusUnauthorized)
		return
	case atomic.AddInt32(&s.Busy, -1) >= 0:
		w.Header().Set("Retry-After", "0")
		http.Error(w, "too many requests", http.StatusTooManyRequests)
		return
	case atomic.AddInt32(&s.Broken, -1) >= 0:
		http.Error(w, "out of order", http.StatusInternalServerError)
		return
	case atomic.AddInt32(&s.Slow, -1) >= 0:
		time.Sleep(s.Delay)
	case s.Babbles:
		_, _ = w.Write([]byte("<html>welcome</html>"))
		return
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, largest)).Decode(&request); err != nil || r.Method != http.MethodPost {
		http.Error(w, "POST a request as docs/draft-service.md has it", http.StatusBadRequest)
		return
	}
	answer := Answer{Texts: []Text{}}
	for _, t := range request.Texts {
		if s.Leaves != "" && strings.Contains(t.ID, s.Leaves) {
			continue
		}
		m, faults := icu.Parse(t.Text)
		if len(faults) > 0 {
			continue
		}
		m = standIn(m, request.Target, t.Terms, s.Forgets != "" && strings.Contains(t.ID, s.Forgets))
		text, _ := icu.Writer{}.Write(m)
		answer.Texts = append(answer.Texts, Text{ID: t.ID, Text: text})
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(answer)
}

// standIn makes a text that nobody takes for a translation, with all that a
// translation has: placeholders, markup, the culture's plural forms.
func standIn(m message.Message, tag culture.Tag, terms []Term, forget bool) message.Message {
	pattern := func(p message.Pattern) message.Pattern {
		out := message.Pattern{message.Text(lettered("["+string(tag)+"] ", tag))}
		for _, part := range p {
			switch part := part.(type) {
			case message.Text:
				text := string(part)
				for _, t := range terms {
					text = strings.ReplaceAll(text, t.Source, t.Target)
				}
				text = lettered(text, tag)
				out = out.Add(message.Text(text))
			case *message.Placeholder:
				if !forget {
					out = out.Add(part)
				}
			default:
				out = out.Add(part)
			}
		}
		return out
	}
	if m.Choice == nil {
		return message.Message{Pattern: pattern(m.Pattern)}
	}
	if len(m.Choice.Selectors) == 1 && m.Choice.Selectors[0].Kind == message.Plural {
		m = numbered.Shape(m, tag)
	}
	choice := &message.Choice{Selectors: m.Choice.Selectors}
	for _, v := range m.Choice.Variants {
		choice.Variants = append(choice.Variants, message.Variant{Keys: v.Keys, Pattern: pattern(v.Pattern)})
	}
	return message.Message{Choice: choice}
}

// alphabets are letters of the scripts that are not Latin, which stand in for
// those of a Latin text, so that it looks like one of the culture.
var alphabets = map[string]string{
	"Arab": "ابتثجحخدذرزسشصضطظعغفقكلمنه", "Hebr": "אבגדהוזחטיכלמנסעפצקרשתאבגד", "Cyrl": "абвгдежзиклмнопрстуфхцчшэюя",
	"Grek": "αβγδεζηθικλμνξοπρστυφχψωαβ", "Deva": "अबगदएफघहइजकलमनओपछरसटउवडशयझ", "Jpan": "アビクデエフガハイジカラマナオパキルサタウヴワシヤゼ",
	"Thai": "กขคฆงจฉชซญฎฏฐฑฒณดตถทธนบปผฝ", "Kore": "가나다라마바사아자차카타파하거너더러머버서어저처커터", "Hans": "天地人大小山川日月水火木金土上下左右中文字书船海岛风",
	"Hant": "天地人大小山川日月水火木金土上下左右中文字書船海島風",
}

// lettered writes the Latin letters of a text with those of the culture's
// script.
func lettered(text string, tag culture.Tag) string {
	alphabet := []rune(alphabets[tag.Script()])
	if len(alphabet) == 0 {
		return text
	}
	return strings.Map(func(r rune) rune {
		switch {
		case r >= 'a' && r <= 'z':
			return alphabet[int(r-'a')%len(alphabet)]
		case r >= 'A' && r <= 'Z':
			return alphabet[int(r-'A')%len(alphabet)]
		}
		return r
	}, text)
}

// Start serves the simulated service on the loopback interface. The address is
// good until stop is called.
func (s *Simulated) Start() (address string, stop func(), err error) {
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", nil, err
	}
	server := &http.Server{Handler: s, ReadHeaderTimeout: 5 * time.Second}
	go func() { _ = server.Serve(listener) }()
	return "http://" + listener.Addr().String() + "/", func() { _ = server.Close() }, nil
}
