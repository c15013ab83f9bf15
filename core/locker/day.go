package locker

import (
	"strconv"
	"time"
)

// dayOf reads a day as spreadsheets keep it, counted from the end of 1899; any other text
// stays as it is.
func dayOf(text string) string {
	count, err := strconv.Atoi(text)
	if err != nil || count < 20_000 || count > 80_000 {
		return text
	}
	return time.Date(1899, time.December, 30, 0, 0, 0, 0, time.UTC).AddDate(0, 0, count).Format(time.DateOnly)
}

// later is the day so many days after another; the same text when it is no day.
func later(day string, days int) string {
	at, err := time.Parse(time.DateOnly, day)
	if err != nil {
		return day
	}
	return at.AddDate(0, 0, days).Format(time.DateOnly)
}
