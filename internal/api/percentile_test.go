package api_test

import (
	"slices"
	"testing"
	"time"
)

// reportPercentile reports the 99th percentile of times, in milliseconds.
func reportPercentile(b *testing.B, times []time.Duration) {
	slices.Sort(times)
	b.ReportMetric(float64(times[len(times)*99/100].Microseconds())/1000, "p99-ms")
}
