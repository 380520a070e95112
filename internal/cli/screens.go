package cli

import (
	"errors"
	"path/filepath"

	"github.com/urfave/cli/v3"

	"zelvik/project"
	"zelvik/project/screens"
)

var errNoScreens = errors.New("draw needs a screen; for example: zelvik draw screens/booking.yaml --out pictures")

// screenFiles returns the configuration, and the screen files named, else those of
// the configuration.
func (e *env) screenFiles(c *cli.Command, args []string) (*project.Config, []string, error) {
	at := c.String("project")
	if at == "" {
		start := "."
		if len(args) > 0 {
			start = filepath.Dir(args[0])
		}
		at = project.FindConfig(e.disk, start)
	}
	config := &project.Config{}
	if at != "" {
		read, err := project.ReadConfig(e.disk, at)
		if err != nil {
			return nil, nil, err
		}
		config = read
	}
	if len(args) > 0 {
		return config, args, nil
	}
	list, err := screens.Files(e.disk, config)
	return config, list, err
}
