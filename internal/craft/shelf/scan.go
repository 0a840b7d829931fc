package shelf

import (
	"fmt"
	"strconv"
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
