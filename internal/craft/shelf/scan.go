package shelf

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"time"
)

// GS1Date reads the six digits YYMMDD of the GS1 code (17) as a day. The year lies within 49 years before
// and 50 after today's; day 00 is the month's last. Source: GS1 General Specifications (from memory).
func GS1Date(text, today string) (string, error) {
	now, err := time.Parse(dayLayout, today)
	if err != nil {
		return "", fmt.Errorf("%q is no day", today)
	}
	n, err := strconv.Atoi(text)
	if err != nil || len(text) != 6 || n < 0 {
		return "", fmt.Errorf("%q is not six digits", text)
	}
	year, month, day := n/10000, n/100%100, n%100
	if month < 1 || month > 12 {
		return "", fmt.Errorf("there is no month %d", month)
	}
	year += now.Year() / 100 * 100
	switch {
	case year-now.Year() > 50:
		year -= 100
	case year-now.Year() < -49:
		year += 100
	}
	last := time.Date(year, time.Month(month)+1, 0, 0, 0, 0, 0, time.UTC)
	switch {
	case day == 0:
		return last.Format(dayLayout), nil
	case day > last.Day():
		return "", fmt.Errorf("month %d has no day %d", month, day)
	}
	return time.Date(year, time.Month(month), day, 0, 0, 0, 0, time.UTC).Format(dayLayout), nil
}

// CheckDigit is the last digit of a GTIN, from the digits before it: weights 3 and 1 in turn from the
// right. Source: GS1 General Specifications (from memory).
func CheckDigit(digits string) (int, error) {
	if len(digits) == 0 || len(digits) > 17 {
		return 0, fmt.Errorf("%q is not the digits of a GTIN", digits)
	}
	sum := 0
	for i := range digits {
		c := digits[len(digits)-1-i]
		if c < '0' || c > '9' {
			return 0, fmt.Errorf("%q holds something else than digits", digits)
		}
		weight := 3
		if i%2 == 1 {
			weight = 1
		}
		sum += weight * int(c-'0')
	}
	return (10 - sum%10) % 10, nil
}

// Scanned is what a code says: the product's GTIN (14 digits), the lot, the last day of use, or the id of a
// pack that the studio labelled itself. What a code does not say is empty.
type Scanned struct {
	GTIN, Lot, Expiry, Pack string
}

// OwnCode begins the codes on the studio's own labels; the id of a pack follows.
const OwnCode = "palm:"

// fixed are the lengths of the GS1 element strings that have one; all others end at a separator.
var fixed = map[string]int{
	"00": 18, "01": 14, "02": 14, "11": 6, "12": 6, "13": 6, "15": 6, "16": 6, "17": 6, "20": 2,
}

// separator ends an element string of no fixed length, as a scanner sends it.
const separator = "\x1d"

// ReadCode reads what a scanner sends or a person types: a GS1 code with (01) GTIN, (10) lot and (17) or
// (15) date, in brackets or as it is printed in the code; a bare GTIN of 8, 12, 13 or 14 digits; or one of
// the studio's own labels. Source: GS1 General Specifications (from memory).
func ReadCode(text, today string) (Scanned, error) {
	text = strings.TrimSpace(text)
	if id, ok := strings.CutPrefix(text, OwnCode); ok && id != "" {
		return Scanned{Pack: id}, nil
	}
	switch len(text) {
	case 8, 12, 13, 14:
		if strings.Trim(text, "0123456789") == "" {
			gtin, err := GTIN(text)
			return Scanned{GTIN: gtin}, err
		}
	}
	elements, err := elementsOf(text)
	if err != nil {
		return Scanned{}, err
	}
	var out Scanned
	for _, e := range elements {
		switch e[0] {
		case "01":
			out.GTIN, err = GTIN(e[1])
		case "10":
			out.Lot = e[1]
		case "17":
			out.Expiry, err = GS1Date(e[1], today)
		case "15":
			if out.Expiry == "" {
				out.Expiry, err = GS1Date(e[1], today)
			}
		}
		if err != nil {
			return Scanned{}, err
		}
	}
	if out == (Scanned{}) {
		return out, errors.New("this code names neither a product nor a lot")
	}
	return out, nil
}

// GTIN is a product's number as 14 digits, its check digit tried.
func GTIN(digits string) (string, error) {
	if len(digits) < 8 || len(digits) > 14 {
		return "", fmt.Errorf("%q is not the digits of a GTIN", digits)
	}
	want, err := CheckDigit(digits[:len(digits)-1])
	if err != nil {
		return "", err
	}
	if int(digits[len(digits)-1]-'0') != want {
		return "", fmt.Errorf("the last digit of %s must be %d; one digit was misread", digits, want)
	}
	return strings.Repeat("0", 14-len(digits)) + digits, nil
}

// elementsOf cuts a GS1 code into pairs of application identifier and text.
func elementsOf(text string) (out [][2]string, err error) {
	if strings.HasPrefix(text, "(") {
		for _, part := range strings.Split(text[1:], "(") {
			id, value, ok := strings.Cut(part, ")")
			if !ok || value == "" {
				return nil, fmt.Errorf("%q is no code that can be read", text)
			}
			out = append(out, [2]string{id, strings.TrimSpace(value)})
		}
		return out, nil
	}
	for _, symbology := range []string{"]C1", "]d2", "]Q3", "]e0"} {
		text = strings.TrimPrefix(text, symbology)
	}
	for text = strings.TrimPrefix(text, separator); text != ""; text = strings.TrimPrefix(text, separator) {
		if len(text) < 3 {
			return nil, fmt.Errorf("%q is left over at the end of the code", text)
		}
		id := text[:2]
		text = text[2:]
		n, ok := fixed[id]
		switch {
		case ok && len(text) < n:
			return nil, fmt.Errorf("the code ends before (%s) is complete", id)
		case !ok && id != "10" && id != "21" && id != "30" && id != "37":
			return nil, fmt.Errorf("(%s) cannot be read; type the lot and the date", id)
		case !ok:
			if n = strings.Index(text, separator); n < 0 {
				n = len(text)
			}
		}
		out = append(out, [2]string{id, text[:n]})
		text = text[n:]
	}
	return out, nil
}
