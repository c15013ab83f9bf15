package server

import (
	"bytes"
	"encoding/binary"
)

// placeless takes off a picture what its device wrote beside it, the place where it was taken
// above all; how it is to be turned stays, and what its colours mean. A picture that is not
// built as its format says stays as it is: it was decoded whole before.
func placeless(picture []byte, format string) []byte {
	if format == "png" {
		return placelessPNG(picture)
	}
	return placelessJPEG(picture)
}

// placelessJPEG keeps the segments that the picture needs (ITU-T T.81, annex B): all but
// application segments and comments, of which those of JFIF, of the colour profile and of
// Adobe's colour transform stay.
func placelessJPEG(picture []byte) []byte {
	out := append(make([]byte, 0, len(picture)), picture[:2]...)
	at := 2
	for at+4 <= len(picture) && picture[at] == 0xff {
		marker := picture[at+1]
		long := int(binary.BigEndian.Uint16(picture[at+2:])) + 2
		if marker == 0xff {
			at++ // fill
			continue
		}
		if at+long > len(picture) {
			return picture
		}
		segment := picture[at : at+long]
		switch {
		case marker == 0xda: // the picture itself, to the end
			end := len(picture)
			if i := bytes.LastIndex(picture, []byte{0xff, 0xd9}); i >= at {
				end = i + 2 // what hangs on behind it, such as a second picture, is not it
			}
			return append(out, picture[at:end]...)
		case marker == 0xe1:
			if turn := orientation(segment); turn > 1 {
				out = append(out, turned(turn)...)
			}
		case marker >= 0xe3 && marker <= 0xed, marker == 0xef, marker == 0xfe:
		default:
			out = append(out, segment...)
		}
		at += long
	}
	return picture
}

// exif begins an application segment of Exif.
const exif = "Exif\x00\x00"

// orientation reads how a picture is to be turned (tag 0x0112 of Exif's first directory, 1 to
// 8); 0: it does not say.
func orientation(segment []byte) uint16 {
	if len(segment) < 4+len(exif)+8 || string(segment[4:4+len(exif)]) != exif {
		return 0
	}
	body := segment[4+len(exif):]
	var order binary.ByteOrder = binary.BigEndian
	if string(body[:2]) == "II" {
		order = binary.LittleEndian
	}
	first := int(order.Uint32(body[4:]))
	if first < 8 || first+2 > len(body) {
		return 0
	}
	for i := range int(order.Uint16(body[first:])) {
		entry := first + 2 + 12*i
		if entry+12 > len(body) {
			return 0
		}
		if order.Uint16(body[entry:]) == 0x0112 {
			if turn := order.Uint16(body[entry+8:]); turn <= 8 {
				return turn
			}
			return 0
		}
	}
	return 0
}

// turned is a segment of Exif that says nothing but how to turn the picture.
func turned(turn uint16) []byte {
	body := append([]byte(exif), "MM\x00\x2a\x00\x00\x00\x08\x00\x01\x01\x12\x00\x03\x00\x00\x00\x01"...)
	body = binary.BigEndian.AppendUint16(body, turn)
	body = append(body, 0, 0, 0, 0, 0, 0)
	segment := []byte{0xff, 0xe1}
	segment = binary.BigEndian.AppendUint16(segment, uint16(len(body)+2)) //nolint:gosec // a few bytes
	return append(segment, body...)
}

// placelessPNG leaves out the chunks of text, time and Exif (W3C PNG, 11.3).
func placelessPNG(picture []byte) []byte {
	const signature = 8
	out := append(make([]byte, 0, len(picture)), picture[:signature]...)
	for at := signature; at+12 <= len(picture); {
		long := int(binary.BigEndian.Uint32(picture[at:])) + 12
		if long < 12 || at+long > len(picture) {
			return picture
		}
		switch kind := string(picture[at+4 : at+8]); kind {
		case "tEXt", "zTXt", "iTXt", "eXIf", "tIME":
		case "IEND":
			return append(out, picture[at:at+long]...)
		default:
			out = append(out, picture[at:at+long]...)
		}
		at += long
	}
	return picture
}
