package job

import "bytes"

// Split takes a written document apart without reading it: what stands before, between and
// after the picks, and each pick as it is written. ok is false when it has no list of picks
// at its top level, or is no JSON that could be taken apart; it must then be read whole.
func Split(data []byte) (rest []byte, picks [][]byte, ok bool) {
	at := skipSpace(data, 0)
	if at >= len(data) || data[at] != '{' {
		return nil, nil, false
	}
	at++
	for {
		at = skipSpace(data, at)
		if at < len(data) && data[at] == ',' {
			at = skipSpace(data, at+1)
		}
		nameEnd := endOf(data, at)
		if nameEnd < 0 || data[at] != '"' {
			return nil, nil, false
		}
		name := data[at:nameEnd]
		at = skipSpace(data, nameEnd)
		if at >= len(data) || data[at] != ':' {
			return nil, nil, false
		}
		at = skipSpace(data, at+1)
		end := endOf(data, at)
		if end < 0 {
			return nil, nil, false
		}
		if bytes.Equal(name, []byte(`"picks"`)) {
			if picks, ok = entriesOf(data[at:end]); !ok {
				return nil, nil, false
			}
			rest = append(append([]byte(nil), data[:at]...), data[end:]...)
			return rest, picks, true
		}
		at = end
	}
}

// entriesOf takes a written list apart.
func entriesOf(list []byte) (entries [][]byte, ok bool) {
	if len(list) == 0 || list[0] != '[' {
		return nil, false
	}
	entries = [][]byte{}
	for at := skipSpace(list, 1); at < len(list) && list[at] != ']'; {
		end := endOf(list, at)
		if end < 0 {
			return nil, false
		}
		entries = append(entries, list[at:end])
		at = skipSpace(list, end)
		if at < len(list) && list[at] == ',' {
			at = skipSpace(list, at+1)
		}
	}
	return entries, true
}

func skipSpace(data []byte, at int) int {
	for at < len(data) && (data[at] == ' ' || data[at] == '\n' || data[at] == '\t' || data[at] == '\r') {
		at++
	}
	return at
}

// endOf is where the written value that begins at a place ends; −1: nowhere.
func endOf(data []byte, at int) int {
	depth := 0
	for i := at; i < len(data); i++ {
		switch data[i] {
		case '"':
			for i++; i < len(data) && data[i] != '"'; i++ {
				if data[i] == '\\' {
					i++
				}
			}
			if i >= len(data) {
				return -1
			}
		case '{', '[':
			depth++
			continue
		case '}', ']':
			depth--
			if depth < 0 {
				return i
			}
		case ',', ':':
			if depth == 0 {
				return i
			}
			continue
		default:
			continue
		}
		if depth == 0 {
			return i + 1
		}
	}
	return -1
}
