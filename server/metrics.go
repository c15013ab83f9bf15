package server

import (
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/prometheus/client_golang/prometheus"
	"github.com/prometheus/client_golang/prometheus/collectors"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"elkstay/store"
)

// metrics count what the server does, to be read in the open text format at an address of
// their own.
type metrics struct {
	registry *prometheus.Registry
	took     *prometheus.HistogramVec
	panics   prometheus.Counter
}

func newMetrics(turns *queue, streams *live, kept *store.Store) *metrics {
	m := &metrics{
		registry: prometheus.NewRegistry(),
		took: prometheus.NewHistogramVec(prometheus.HistogramOpts{
			Name: "elkstay_request_seconds", Help: "Requests and how long they took, by the pattern of their address.",
			Buckets: []float64{0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 15},
		}, []string{"method", "path", "status"}),
		panics: prometheus.NewCounter(prometheus.CounterOpts{Name: "elkstay_panics_total", Help: "Requests that broke the server's own work."}),
	}
	gauge := func(name, help string, value func() float64) {
		m.registry.MustRegister(prometheus.NewGaugeFunc(prometheus.GaugeOpts{Name: name, Help: help}, value))
	}
	m.registry.MustRegister(m.took, m.panics, collectors.NewGoCollector(), collectors.NewProcessCollector(collectors.ProcessCollectorOpts{}))
	gauge("elkstay_long_sums_running", "Long sums at work.", func() float64 { running, _ := turns.standing(); return float64(running) })
	gauge("elkstay_long_sums_waiting", "Long sums that wait their turn.", func() float64 { _, waiting := turns.standing(); return float64(waiting) })
	gauge("elkstay_streams", "Pages that hear of saves as they are made.", func() float64 { return float64(streams.count()) })
	if kept != nil {
		gauge("elkstay_connections_used", "Connections to the database in use.", func() float64 { used, _, _ := kept.Connections(); return float64(used) })
		gauge("elkstay_connections_open", "Connections to the database that are open.", func() float64 { _, open, _ := kept.Connections(); return float64(open) })
		gauge("elkstay_connections_most", "Connections to the database that may be open.", func() float64 { _, _, most := kept.Connections(); return float64(most) })
	}
	return m
}

// watch counts every request.
func (m *metrics) watch(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		start := time.Now()
		watched := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		defer func() {
			pattern := "other"
			if route := chi.RouteContext(r.Context()); route != nil && route.RoutePattern() != "" {
				pattern = route.RoutePattern()
			}
			m.took.WithLabelValues(r.Method, pattern, strconv.Itoa(watched.Status())).Observe(time.Since(start).Seconds())
			if watched.Status() == http.StatusInternalServerError {
				m.panics.Inc()
			}
		}()
		next.ServeHTTP(watched, r)
	})
}

// page is what they are read from.
func (m *metrics) page() http.Handler {
	return promhttp.HandlerFor(m.registry, promhttp.HandlerOpts{EnableOpenMetrics: true})
}
