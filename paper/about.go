package paper

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"time"
)

// about is what a PDF says of itself: to whoever lists papers, and to a reader that reads aloud. The library writes no tags of
// structure: headings and tables are told by outline and order alone.
type about struct {
	title, subject, author string
	made                   time.Time
}

// says writes it into the document: its information, its language, and the same as XMP (ISO 16684-1).
func (d *page) says(a about) {
	d.SetTitle(a.title, true)
	d.SetSubject(a.subject, true)
	if a.author != "" {
		d.SetAuthor(a.author, true)
	}
	d.SetCreator("Elk Stay", true)
	d.SetCreationDate(a.made)
	d.SetModificationDate(a.made)
	d.SetLang("en")
	d.SetXmpMetadata(a.xmp())
}

func (a about) xmp() []byte {
	text := func(s string) string {
		var out bytes.Buffer
		_ = xml.EscapeText(&out, []byte(s)) // into memory
		return out.String()
	}
	at := a.made.UTC().Format(time.RFC3339)
	creator := ""
	if a.author != "" {
		creator = "<dc:creator><rdf:Seq><rdf:li>" + text(a.author) + "</rdf:li></rdf:Seq></dc:creator>"
	}
	return fmt.Appendf(nil, `<?xpacket begin="" id="W5M0MpCehiHzreSzNTczkc9d"?><x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">`+
		`<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:xmp="http://ns.adobe.com/xap/1.0/"><dc:format>application/pdf</dc:format>`+
		`<dc:title><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:title><dc:description><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:description>`+
		`%s<dc:language><rdf:Bag><rdf:li>en</rdf:li></rdf:Bag></dc:language><xmp:CreatorTool>Elk Stay</xmp:CreatorTool><xmp:CreateDate>%s</xmp:CreateDate><xmp:ModifyDate>%s</xmp:ModifyDate>`+
		`</rdf:Description></rdf:RDF></x:xmpmeta><?xpacket end="r"?>`, text(a.title), text(a.subject), creator, at, at)
}

// outlined begins a part that the outline leads to.
func (d *page) outlined(title string) { d.Bookmark(title, 0, d.y) }
