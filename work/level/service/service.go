// Package service asks a translation service over HTTP, in the project's own
// protocol (docs/draft-service.md), and holds a simulated one that stands in
// for it.
package service

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/hashicorp/go-retryablehttp"

	"zelvik/culture"
)

// Request asks for texts in one culture.
type Request struct {
	Source culture.Tag `json:"source"`
	Target culture.Tag `json:"target"`
	Texts  []Text      `json:"texts"`
}

// Text is one text: an ICU message, with what a translator is told of it.
type Text struct {
	ID   string `json:"id"`
	Text string `json:"text"`
	Note string `json:"note,omitempty"`
	// Limit is the greatest length in characters, 0 for none.
	Limit int `json:"limit,omitempty"`
	// Terms are the glossary's terms that are in the text.
	Terms []Term `json:"terms,omitempty"`
}

// Term is a word of the source and what it is to be.
type Term struct {
	Source string `json:"source"`
	Target string `json:"target"`
}

// Answer holds the texts that were translated; a service may leave some out.
type Answer struct {
	Texts []Text `json:"texts"`
}

// Client asks a service.
type Client struct {
	address string
	key     string
	http    *retryablehttp.Client
	// batch is how many texts are sent at once.
	batch int
}

// Options say how a service is asked. The zero value is what people want.
type Options struct {
	// Key is sent as a bearer token (RFC 6750), "" for none.
	Key string
	// Patience is how long one request may take; 30 seconds where it is 0.
	Patience time.Duration
	// Tries is how often a request is sent before it is given up; 4 where 0.
	Tries int
	// Pause is the first pause between tries, which doubles; a second where 0. A
	// service that says when to come back (RFC 9110, Retry-After) is believed.
	Pause time.Duration
	// Told hears of every try that failed.
	Told func(text string)
}

// New makes a client for an http or https address.
func New(address string, o Options) (*Client, error) {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || u.Scheme != "http" && u.Scheme != "https" {
		return nil, fmt.Errorf("%q is no address of a service; give one such as http://127.0.0.1:8080/translate", address)
	}
	if o.Patience < 0 || o.Tries < 0 || o.Tries > mostTries {
		return nil, fmt.Errorf("a request takes 1 to %d tries and more than no time; give --tries and --patience so", mostTries)
	}
	if o.Patience == 0 {
		o.Patience = 30 * time.Second
	}
	if o.Tries == 0 {
		o.Tries = 4
	}
	if o.Pause == 0 {
		o.Pause = time.Second
	}
	client := retryablehttp.NewClient()
	client.Logger = nil
	client.RetryMax = o.Tries - 1
	client.RetryWaitMin, client.RetryWaitMax = o.Pause, min(16*o.Pause, max(o.Patience, o.Pause))
	client.HTTPClient.Timeout = o.Patience
	client.ErrorHandler = retryablehttp.PassthroughErrorHandler
	client.HTTPClient.CheckRedirect = func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse } // the key is for this address alone
	retry := client.CheckRetry
	client.CheckRetry = func(ctx context.Context, response *http.Response, err error) (bool, error) {
		again, stop := retry(ctx, response, err)
		if again && response != nil {
			if wait := retryablehttp.DefaultBackoff(0, 0, 0, response); wait > o.Patience {
				return false, &lateError{wait}
			}
		}
		if again && o.Told != nil {
			o.Told(reason(response, err))
		}
		return again, stop
	}
	return &Client{address, o.Key, client, 50}, nil
}

// lateError says that a service asks to wait for longer than anybody does.
type lateError struct{ wait time.Duration }

// Error returns one sentence.
func (e *lateError) Error() string {
	return fmt.Sprintf("the service asks to come back in %s; run the command again then", e.wait.Round(time.Second))
}

// reason says why a try failed.
func reason(response *http.Response, err error) string {
	var late net.Error
	var later *lateError
	switch {
	case errors.As(err, &later):
		return later.Error()
	case errors.As(err, &late) && late.Timeout():
		return "the service did not answer in time"
	case err != nil:
		return "the service cannot be reached: " + err.Error()
	case response.StatusCode == http.StatusTooManyRequests:
		return "the service asks to wait (429)"
	}
	return "the service answers " + response.Status
}

// Translate asks for texts in one culture. Progress, where it is not nil, hears
// how many were asked for. Texts that the service left out twice are not in the
// answer. An error comes with the texts that were answered before it.
func (c *Client) Translate(ctx context.Context, r Request, progress func(n int)) (map[string]string, error) {
	answers := map[string]string{}
	for from := 0; from < len(r.Texts); from += c.batch {
		batch := r.Texts[from:min(from+c.batch, len(r.Texts))]
		for range 2 { // once more for what was left out
			asked := Request{r.Source, r.Target, nil}
			for _, t := range batch {
				if _, ok := answers[t.ID]; !ok {
					asked.Texts = append(asked.Texts, t)
				}
			}
			if asked.Texts == nil {
				break
			}
			answer, err := c.ask(ctx, asked)
			if err != nil {
				return answers, err
			}
			for _, t := range answer.Texts {
				if strings.TrimSpace(t.Text) != "" && has(asked.Texts, t.ID) {
					answers[t.ID] = t.Text
				}
			}
		}
		if progress != nil {
			progress(len(batch))
		}
	}
	return answers, nil
}

func has(texts []Text, id string) bool {
	for _, t := range texts {
		if t.ID == id {
			return true
		}
	}
	return false
}

// mostTries bounds how often a request is sent.
const mostTries = 20

// largest bounds an answer.
const largest = 16 << 20

func (c *Client) ask(ctx context.Context, r Request) (*Answer, error) {
	body, err := json.Marshal(r)
	if err != nil {
		return nil, err
	}
	request, err := retryablehttp.NewRequestWithContext(ctx, http.MethodPost, c.address, body)
	if err != nil {
		return nil, err
	}
	request.Header.Set("Content-Type", "application/json")
	if c.key != "" {
		request.Header.Set("Authorization", "Bearer "+c.key)
	}
	response, err := c.http.Do(request)
	if err != nil {
		return nil, errors.New(reason(nil, err))
	}
	defer func() { _ = response.Body.Close() }()
	data, err := io.ReadAll(io.LimitReader(response.Body, largest+1))
	switch {
	case response.StatusCode/100 == 3:
		return nil, fmt.Errorf("the service answers %s and points to %q, which was not asked; give that address with --service if it is the right one", response.Status, response.Header.Get("Location"))
	case len(data) > largest:
		return nil, fmt.Errorf("the service's answer is larger than %d MiB", largest>>20)
	case response.StatusCode == http.StatusUnauthorized || response.StatusCode == http.StatusForbidden:
		return nil, fmt.Errorf("the service answers %s; give its key in ZELVIK_SERVICE_KEY", response.Status)
	case response.StatusCode != http.StatusOK:
		return nil, fmt.Errorf("the service answers %s: %s", response.Status, short(data))
	case err != nil:
		return nil, errors.New(reason(nil, err))
	}
	var answer Answer
	if err := json.Unmarshal(data, &answer); err != nil { // and nothing after it
		return nil, fmt.Errorf("the service's answer is not in the protocol of docs/draft-service.md: %s", short(data))
	}
	return &answer, nil
}

func short(data []byte) string {
	text := strings.Join(strings.Fields(string(data)), " ")
	if len(text) > 80 {
		return strings.ToValidUTF8(text[:80], "") + "…"
	}
	return text
}
