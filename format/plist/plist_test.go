package plist

import (
	"encoding/base64"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// written by Python's plistlib: two texts, one with characters beyond ASCII,
// a number and a long text.
const encoded = "YnBsaXN0MDDUAQIDBAUGBwhoAGUAbQBvAGoAaQAg2D3eAFVoZWxsb1Rsb25nVm51bWJlcmQA6QAg2D3eAFlIYWxsbywgJUBfEBR4eHh4eHh4eHh4eHh4eHh4eHh4eBADCBEiKC00PUdeAAAAAAAAAQEAAAAAAAAACQAAAAAAAAAAAAAAAAAAAGA="

func TestBinary(t *testing.T) {
	data, err := base64.StdEncoding.DecodeString(encoded)
	require.NoError(t, err)
	require.True(t, IsBinary(data))
	pairs, err := Binary(data)
	require.NoError(t, err)
	assert.Equal(t, []Pair{{"emoji 😀", "é 😀"}, {"hello", "Hallo, %@"}, {"long", "xxxxxxxxxxxxxxxxxxxx"}}, pairs)
}

// A damaged binary list is an error or fewer pairs, never a fault.
func TestDamagedBinary(t *testing.T) {
	data, err := base64.StdEncoding.DecodeString(encoded)
	require.NoError(t, err)
	for i := range data {
		for _, b := range []byte{0, 0xFF, 0x7F, data[i] ^ 0x10} {
			bad := append([]byte(nil), data...)
			bad[i] = b
			_, _ = Binary(bad)
			_, _ = Binary(bad[:i])
		}
	}
}

func TestFaults(t *testing.T) {
	for src, want := range map[string]string{
		"<plist><dict><key>a</key></dict></plist>":                           `the key "a" has no value`,
		"<plist><dict><string>a</string></dict></plist>":                     "a value without a key",
		"<plist><dict><key>a</key><key>b</key><string/></dict></plist>":      `the key "a" has no value`,
		"<plist><dict>x</dict></plist>":                                      "text inside a <dict>",
		"<plist></plist>":                                                    "the file holds no property list",
		"<plist><dict/><dict/></plist>":                                      "a second value at the top",
		"<plist><dict><key>a</key><string>b<b>c</b></string></dict></plist>": "<b> inside a text",
	} {
		_, faults := Parse(src)
		require.NotEmpty(t, faults, src)
		assert.Equal(t, want, faults[0].Text, src)
		assert.NotEmpty(t, faults[0].Fix)
	}
}
