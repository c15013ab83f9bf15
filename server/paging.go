package server

import (
	"encoding/base64"
	"encoding/json"
	"net/http"

	"elkstay/store"
)

// Page asks for a part of a list.
type Page struct {
	After string `query:"after" maxLength:"400" doc:"Where the page before it ended: its next; absent: from the start"`
	Limit int    `query:"limit" minimum:"1" maximum:"1000" default:"100" doc:"How many at most"`
}

// More says how a list goes on.
type More struct {
	Total int    `json:"total" doc:"How many there are in all"`
	Next  string `json:"next" doc:"To be given as after for the next page; empty: there are no more"`
}

// written is a place of a list as an address carries it.
func written[P store.Place | store.Shelf | store.Key](place *P) string {
	if place == nil {
		return ""
	}
	text, err := json.Marshal(place)
	if err != nil {
		return ""
	}
	return base64.RawURLEncoding.EncodeToString(text)
}

// placed reads a place of a list.
func placed[P store.Place | store.Shelf | store.Key](after string) (place P, err error) {
	if after == "" {
		return place, nil
	}
	text, err := base64.RawURLEncoding.DecodeString(after)
	if err == nil {
		err = json.Unmarshal(text, &place)
	}
	if err != nil {
		problem := problemOf(http.StatusUnprocessableEntity, "There is no such place in this list.")
		problem.Errors.Add("query.after", after, "next, as the page before gave it", "after is no place of this list")
		return place, problem
	}
	return place, nil
}
