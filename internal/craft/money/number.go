package money

import "strings"

// numberDigits are the digits of a voucher's number, its check digit with them.
const numberDigits = 12

// NumberOf is a voucher's number: eleven random digits and a check digit (ISO/IEC 7812-1, annex B, the Luhn formula),
// which finds one wrong digit and most that changed places.
func NumberOf(digits string) string { return digits + string(rune('0'+checkDigit(digits))) }

// ReadNumber is a voucher's number as somebody typed it, without blanks and dashes, and whether its check digit is
// right.
func ReadNumber(typed string) (string, bool) {
	n := strings.NewReplacer(" ", "", "-", "").Replace(typed)
	if len(n) != numberDigits || strings.Trim(n, "0123456789") != "" {
		return n, false
	}
	return n, checkDigit(n[:numberDigits-1]) == int(n[numberDigits-1]-'0')
}

// checkDigit makes the sum of all digits, every second from the right doubled and its digits added, a multiple of ten.
func checkDigit(digits string) int {
	sum := 0
	for i := range len(digits) {
		d := int(digits[len(digits)-1-i] - '0')
		if i%2 == 0 {
			if d *= 2; d > 9 {
				d -= 9
			}
		}
		sum += d
	}
	return (10 - sum%10) % 10
}
