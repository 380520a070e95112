package judge

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"zelvik/culture"
	"zelvik/project"
	"zelvik/work/trace"
)

// bundle is a family of which no culture has all texts: what a key is called
// says which cultures have it.
func bundle(t *testing.T, tags []string) (dir string, keys []string) {
	dir = t.TempDir()
	for mask := 1; mask < 1<<len(tags); mask++ {
		keys = append(keys, fmt.Sprintf("k%d", mask))
	}
	for i, tag := range tags {
		var text strings.Builder
		for mask, key := range keys {
			if (mask+1)&(1<<i) != 0 {
				fmt.Fprintf(&text, "%s=%s of %s\n", key, key, tag)
			}
		}
		name := "texts.properties"
		if tag != "" {
			name = "texts_" + strings.ReplaceAll(tag, "-", "_") + ".properties"
		}
		write(t, filepath.Join(dir, name), text.String())
	}
	return dir, keys
}

// What trace says of Java is what ResourceBundle does, for every combination of
// files that have a key, culture that is asked for, and default locale.
func TestTraceOfJava(t *testing.T) {
	javac, java := need(t, "javac"), need(t, "java")
	dir, keys := bundle(t, []string{"", "de", "de-CH", "fr", "zh-Hant", "zh-TW"})
	asked, devices := []string{"de-CH", "de-AT", "fi", "fr-CA", "zh-TW", "zh-Hant-HK", "zh"}, []string{"en", "de-CH", "fr", "fi"}
	write(t, filepath.Join(dir, "Trace.java"), `
import java.util.*;
public class Trace {
  public static void main(String[] a) {
    for (String device : a[1].split(",")) {
      Locale.setDefault(Locale.forLanguageTag(device));
      ResourceBundle.clearCache();
      for (String tag : a[0].split(",")) {
        ResourceBundle bundle = ResourceBundle.getBundle("texts", Locale.forLanguageTag(tag));
        for (String key : a[2].split(",")) {
          String text = "";
          try { text = bundle.getString(key); } catch (MissingResourceException e) { }
          System.out.println(device + " " + tag + " " + key + ": " + text);
        }
      }
    }
  }
}`)
	tool(t, dir, javac, "Trace.java")
	printed := tool(t, dir, java, "-cp", ".", "Trace", strings.Join(asked, ","), strings.Join(devices, ","), strings.Join(keys, ","))
	families, err := project.Families([]string{dir}, project.Options{Source: "en"})
	require.NoError(t, err)
	require.Len(t, families, 1)
	var platform *trace.Platform
	for _, p := range trace.Of(families[0]) {
		if p.Name == "Java" {
			platform = p
		}
	}
	var said strings.Builder
	for _, device := range devices {
		for _, tag := range asked {
			for _, key := range keys {
				found := platform.Find(families[0], trace.Question{Key: key, Preferred: []culture.Tag{culture.MustParse(tag)}, Device: culture.MustParse(device)})
				fmt.Fprintf(&said, "%s %s %s: %s\n", device, tag, key, strings.TrimSpace(found.Shows))
			}
		}
	}
	want, have := strings.Split(printed, "\n"), strings.Split(said.String(), "\n")
	require.Len(t, have, len(want))
	for i := range want {
		assert.Equal(t, strings.TrimSpace(want[i]), strings.TrimSpace(have[i]))
	}
}
