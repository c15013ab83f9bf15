package archive

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/binary"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"

	"elkstay/core/intake"
	"elkstay/core/job"
	"elkstay/core/policy"
)

// A Reader is an archive of which every file is what the table of contents says of it.
type Reader struct {
	Contents
	Job  job.Job
	Crew policy.Crew
	file map[string]*zip.File
	said map[string]File
}

// Open reads an archive of so many bytes and holds every file of it against its sum. The error is intake.Faults.
func Open(data io.ReaderAt, size int64) (*Reader, error) {
	fault := func(at string, value any, allowed, format string, args ...any) error {
		var faults intake.Faults
		faults.Add(at, value, allowed, format, args...)
		return faults
	}
	if !shortDirectory(data, size) {
		return nil, fault("archive", size, fmt.Sprintf("a ZIP with a directory of at most %d kB", maxDirectory>>10), "this is no archive, not all of it came, or it lists far more files than one has")
	}
	packed, err := zip.NewReader(data, size)
	if err != nil {
		return nil, fault("archive", size, "a ZIP, whole", "this is no archive, or not all of it came: %v", err)
	}
	r := &Reader{file: map[string]*zip.File{}, said: map[string]File{}}
	for _, f := range packed.File {
		if r.file[f.Name] != nil {
			return nil, fault(f.Name, f.Name, "each name once", "the archive holds %s twice", f.Name)
		}
		r.file[f.Name] = f
	}
	written, err := r.unpack(contentsName, maxContents)
	if err != nil {
		return nil, err
	}
	var named struct {
		Format  string `json:"format"`
		Version int    `json:"version"`
	}
	switch err := json.Unmarshal(written, &named); {
	case err != nil:
		return nil, fault(contentsName, nil, "a table of contents", "the table of contents cannot be read: %v", err)
	case named.Format != Format:
		return nil, fault(contentsName+".format", named.Format, Format, "this is no archive of a job")
	case named.Version < 1 || named.Version > Version:
		return nil, fault(contentsName+".version", named.Version, fmt.Sprintf("1 to %d", Version), "the archive is of version %d, which this program does not know: use a newer one", named.Version)
	}
	if err := json.Unmarshal(written, &r.Contents); err != nil {
		return nil, fault(contentsName, nil, "a table of contents", "the table of contents cannot be read: %v", err)
	}
	if len(r.Pictures) > MaxPictures || len(r.Briefings) > MaxBriefings {
		return nil, fault(contentsName, len(r.Pictures)+len(r.Briefings), fmt.Sprintf("at most %d pictures and %d briefings", MaxPictures, MaxBriefings), "the archive holds %d pictures and %d briefings", len(r.Pictures), len(r.Briefings))
	}
	return r, r.hold()
}

// shortDirectory reports that a ZIP ends in a directory that is no longer than is read, wherever it says that this begins: every entry of
// it is held in memory (APPNOTE.TXT of the format, 4.3.16).
func shortDirectory(data io.ReaderAt, size int64) bool {
	const end, longestComment = 22, 1 << 16
	tail := make([]byte, min(size, end+longestComment))
	if _, err := data.ReadAt(tail, size-int64(len(tail))); err != nil && !errors.Is(err, io.EOF) {
		return false
	}
	at := bytes.LastIndex(tail, []byte("PK\x05\x06"))
	if at < 0 || at+end > len(tail) {
		return false
	}
	ends := size - int64(len(tail)) + int64(at)
	long, begins := int64(binary.LittleEndian.Uint32(tail[at+12:])), int64(binary.LittleEndian.Uint32(tail[at+16:]))
	return long <= maxDirectory && begins >= ends-maxDirectory && begins <= ends
}

// hold holds every file against what is said of it, and reads the job and what it is judged by.
func (r *Reader) hold() error {
	var faults intake.Faults
	for _, f := range r.Files {
		r.said[f.Path] = f
	}
	for name := range r.file {
		if _, said := r.said[name]; !said && name != contentsName {
			faults.Add(name, name, "what the table of contents names", "%s is not in the table of contents", name)
		}
	}
	needed := []string{jobName, crewName}
	for _, p := range r.Pictures {
		needed = append(needed, p.Path)
	}
	for _, b := range r.Briefings {
		needed = append(needed, b.Path)
	}
	for _, name := range needed {
		if _, said := r.said[name]; !said {
			faults.Add(name, name, "a file of the archive", "%s is missing", name)
		}
	}
	if len(faults) > 0 {
		return faults
	}
	for _, f := range r.Files {
		if _, err := r.read(f.Path); err != nil {
			return err
		}
	}
	written, err := r.read(jobName)
	if err == nil {
		r.Job, err = job.ReadJob(written)
	}
	if err != nil {
		return err
	}
	if written, err = r.read(crewName); err == nil {
		r.Crew, err = policy.ReadCrew(written)
	}
	return err
}

// Picture is a picture of the archive.
func (r *Reader) Picture(p Picture) ([]byte, error) { return r.read(p.Path) }

// Briefing is what a briefing of the archive was made of.
func (r *Reader) Briefing(b PaperHead) (document job.Job, crew policy.Crew, err error) {
	written, err := r.read(b.Path)
	if err != nil {
		return document, crew, err
	}
	var parts struct{ Job, Crew json.RawMessage }
	if err := json.Unmarshal(written, &parts); err != nil {
		return document, crew, intake.Faults{{Location: b.Path, Message: "the briefing cannot be read: " + err.Error()}}
	}
	if document, err = job.ReadJob(parts.Job); err == nil {
		crew, err = policy.ReadCrew(parts.Crew)
	}
	return document, crew, err
}

// read unpacks a file and holds it against its sum.
func (r *Reader) read(name string) ([]byte, error) {
	most, known := r.bounded(name)
	if !known {
		return nil, intake.Faults{{Location: name, Value: name, Message: name + " belongs to nothing in the archive"}}
	}
	data, err := r.unpack(name, most)
	if err != nil {
		return nil, err
	}
	sum := sha256.Sum256(data)
	if got, want := hex.EncodeToString(sum[:]), r.said[name].SHA256; got != want || int64(len(data)) != r.said[name].Bytes {
		return nil, intake.Faults{{Location: name, Value: got, Allowed: want, Message: name + " is damaged: it is not what the table of contents says of it"}}
	}
	return data, nil
}

// unpack unpacks a file of at most so many bytes.
func (r *Reader) unpack(name string, most int64) ([]byte, error) {
	fault := func(allowed, format string, args ...any) error {
		return intake.Faults{{Location: name, Value: name, Allowed: allowed, Message: fmt.Sprintf(format, args...)}}
	}
	f := r.file[name]
	if f == nil {
		return nil, fault("a file of the archive", "%s is missing", name)
	}
	from, err := f.Open()
	if err != nil {
		return nil, fault("a whole file", "%s cannot be unpacked: %v", name, err)
	}
	var data bytes.Buffer
	_, err = io.CopyN(&data, from, most+1)
	if err = errors.Join(ignoreEnd(err), from.Close()); err != nil {
		return nil, fault("a whole file", "%s is damaged: %v", name, err)
	}
	if int64(data.Len()) > most {
		return nil, fault(fmt.Sprintf("at most %d bytes", most), "%s is larger than it may be", name)
	}
	return data.Bytes(), nil
}

// ignoreEnd is an error but that of a file that ends before the bound.
func ignoreEnd(err error) error {
	if errors.Is(err, io.EOF) {
		return nil
	}
	return err
}
