// Package hostile holds the tests of what wants to hurt: files that make a reader work
// for ever, texts that steer a terminal, services that answer badly, streams that end.
package hostile
