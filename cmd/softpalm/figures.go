package main

import (
	"errors"
	"os"
	"path/filepath"
	"time"

	"softpalm/demo"
	"softpalm/internal/craft/stroke"
	"softpalm/internal/exchange"
)

// writeFigures writes the contact sheet of all strokes into a folder: a page to look at, the same
// without names, and a PDF.
func writeFigures(args []string) error {
	if len(args) != 1 {
		return errors.New("name the folder to write the contact sheet into: softpalm figures FOLDER")
	}
	shipped, err := exchange.ReadBundle(demo.Studio)
	if err != nil {
		return err
	}
	steps := exchange.Sheet(stroke.Trade(), shipped.Tools)
	paper, err := exchange.FiguresPaper(steps, time.Now())
	if err != nil {
		return err
	}
	for name, data := range map[string][]byte{
		"figures.html": []byte(exchange.FiguresPage(steps, false)),
		"blind.html":   []byte(exchange.FiguresPage(steps, true)),
		"figures.pdf":  paper,
	} {
		if err := os.WriteFile(filepath.Join(args[0], name), data, 0o600); err != nil {
			return err
		}
	}
	return nil
}
