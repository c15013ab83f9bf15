package intake

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"unicode/utf8"
)

type leg struct {
	LengthM float64 `json:"length_m" exclusiveMinimum:"0" maximum:"100"`
	Note    string  `json:"note,omitempty" maxLength:"5"`
}

type base struct {
	Kind string `json:"kind" enum:"rope,sling"`
}

type document struct {
	base
	MassKg float64  `json:"mass_kg" exclusiveMinimum:"0" maximum:"1000"`
	HoldKn *float64 `json:"hold_kn,omitempty" minimum:"0"`
	Turns  int      `json:"turns,omitempty" minimum:"0" maximum:"9"`
	Locked bool     `json:"locked,omitempty"`
	Legs   []leg    `json:"legs,omitempty" minItems:"1" maxItems:"2"`
}

func TestDecodeFillsEveryField(t *testing.T) {
	var got document
	err := Decode([]byte(`{"kind":"sling","mass_kg":12.5,"hold_kn":3,"turns":2,"locked":true,"legs":[{"length_m":4,"note":"über"}]}`), &got)
	if err != nil {
		t.Fatal(err)
	}
	hold := 3.0
	want := document{base: base{"sling"}, MassKg: 12.5, HoldKn: &hold, Turns: 2, Locked: true, Legs: []leg{{4, "über"}}}
	if !reflect.DeepEqual(got, want) {
		t.Errorf("got %+v, want %+v", got, want)
	}
}

func TestDecodeTakesNullForAnOptionalField(t *testing.T) {
	var got document
	if err := Decode([]byte(`{"kind":"rope","mass_kg":1,"hold_kn":null}`), &got); err != nil {
		t.Fatal(err)
	}
	if got.HoldKn != nil {
		t.Errorf("hold is %v, want none", *got.HoldKn)
	}
}

func TestDecodeRefusesByName(t *testing.T) {
	cases := []struct{ name, text, location, allowed string }{
		{"missing", `{"kind":"rope"}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"null where needed", `{"kind":"rope","mass_kg":null}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"too small", `{"kind":"rope","mass_kg":0}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"too large", `{"kind":"rope","mass_kg":1001}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"not finite", `{"kind":"rope","mass_kg":1e999}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"text for a number", `{"kind":"rope","mass_kg":"12"}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"unknown", `{"kind":"rope","mass_kg":1,"mas_kg":2}`, "body.mas_kg", "kind, mass_kg, hold_kn, turns, locked, legs"},
		{"twice", `{"kind":"rope","mass_kg":1,"mass_kg":2}`, "body.mass_kg", "once"},
		{"not of the list", `{"kind":"chain","mass_kg":1}`, "body.kind", "rope, sling"},
		{"half a turn", `{"kind":"rope","mass_kg":1,"turns":1.5}`, "body.turns", "a whole number"},
		{"number for a flag", `{"kind":"rope","mass_kg":1,"locked":1}`, "body.locked", "true or false"},
		{"list for a number", `{"kind":"rope","mass_kg":[1]}`, "body.mass_kg", "more than 0 and at most 1000 kg"},
		{"nothing in a list", `{"kind":"rope","mass_kg":1,"legs":[]}`, "body.legs", "1 to 2 entries"},
		{"too long a list", `{"kind":"rope","mass_kg":1,"legs":[{"length_m":1},{"length_m":1},{"length_m":1}]}`, "body.legs", "1 to 2 entries"},
		{"deep", `{"kind":"rope","mass_kg":1,"legs":[{"length_m":1},{"length_m":-1}]}`, "body.legs[1].length_m", "more than 0 and at most 100 m"},
		{"long text", `{"kind":"rope","mass_kg":1,"legs":[{"length_m":1,"note":"abcdef"}]}`, "body.legs[0].note", "text of at most 5 characters"},
		{"no object", `[1]`, "body", "an object"},
		{"empty", ``, "body", "one JSON document (RFC 8259)"},
		{"NaN", `{"kind":"rope","mass_kg":NaN}`, "body", "one JSON document (RFC 8259)"},
		{"broken off", `{"kind":"rope"`, "body", "one JSON document (RFC 8259)"},
		{"something after", `{"kind":"rope","mass_kg":1} {}`, "body", "one JSON document (RFC 8259)"},
		{"no UTF-8", "{\"kind\":\"\xff\"}", "body", "one JSON document (RFC 8259)"},
		{"nested without end", strings.Repeat("[", 5000), "body", "one JSON document (RFC 8259)"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			var into document
			err := Decode([]byte(c.text), &into)
			var faults Faults
			if !errors.As(err, &faults) || len(faults) == 0 {
				t.Fatalf("got %v, want faults", err)
			}
			if faults[0].Location != c.location || faults[0].Allowed != c.allowed {
				t.Errorf("got %s (allowed: %s), want %s (allowed: %s)", faults[0].Location, faults[0].Allowed, c.location, c.allowed)
			}
		})
	}
}

func TestDecodeNamesEveryFaultAtOnce(t *testing.T) {
	var into document
	err := Decode([]byte(`{"kind":"x","mass_kg":-4,"rope":1,"legs":[{"length_m":0}]}`), &into)
	var faults Faults
	if !errors.As(err, &faults) {
		t.Fatal(err)
	}
	want := []string{"body.kind", "body.mass_kg", "body.rope", "body.legs[0].length_m"}
	if len(faults) != len(want) {
		t.Fatalf("got %v, want %v", faults, want)
	}
	for i := range want {
		if faults[i].Location != want[i] {
			t.Errorf("fault %d is at %s, want %s", i, faults[i].Location, want[i])
		}
	}
	if faults[1].Value != -4.0 {
		t.Errorf("the value refused is %v, want -4", faults[1].Value)
	}
}

func TestUnitOf(t *testing.T) {
	for name, want := range map[string]string{
		"line_peak_kn": "kN", "moment_knm": "kN·m", "density_kg_m3": "kg/m³", "at_m": "m", "speed_m_s": "m/s",
		"stiffness_kn_m": "kN/m", "ratio": "", "strain_pct": "%",
	} {
		if got := UnitOf(name); got != want {
			t.Errorf("%s: got %q, want %q", name, got, want)
		}
	}
}

// However much is wrong, 50 faults are named and the rest are counted; none repeats more of
// what came in than a line.
func TestFaultsAreBounded(t *testing.T) {
	var doc strings.Builder
	doc.WriteString(`{"n":1`)
	for i := range 20_000 {
		fmt.Fprintf(&doc, `,"unknown%d%s":[1,2,3]`, i, strings.Repeat("x", 60))
	}
	doc.WriteString(`}`)
	var into struct {
		N float64 `json:"n"`
	}
	var faults Faults
	if err := Decode([]byte(doc.String()), &into); !errors.As(err, &faults) {
		t.Fatal(err)
	}
	if len(faults) != MostFaults+1 || faults[MostFaults].Value != 20_000-MostFaults {
		t.Errorf("%d faults, the last %+v", len(faults), faults[len(faults)-1])
	}
	if faults[0].Value != "a list of 3" {
		t.Errorf("a list is repeated as %v", faults[0].Value)
	}
	faults = nil
	if err := Decode([]byte(`{"`+strings.Repeat("é", 400_000)+`":"`+strings.Repeat("é", 400_000)+`","n":`+strings.Repeat("9", 5000)+`}`), &into); !errors.As(err, &faults) {
		t.Fatal(err)
	}
	said, err := json.Marshal(faults)
	if err != nil || len(said) > 10_000 || !utf8.Valid(said) || strings.ContainsRune(string(said), '\uFFFD') {
		t.Errorf("%d bytes of refusal, %v", len(said), err)
	}
	var joined Faults
	joined.Join(faults)
	for range 60 {
		joined.Add("body.x", 1, "", "wrong")
	}
	var twice Faults
	twice.Join(joined)
	twice.Join(joined)
	if want := 2*(60+len(faults)) - MostFaults; len(twice) != MostFaults+1 || twice[MostFaults].Value != want {
		t.Errorf("joined: %d, the last %+v, want %d more", len(twice), twice[len(twice)-1], want)
	}
}
