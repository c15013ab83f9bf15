package exchange

import (
	"slices"
	"strings"
)

// words lead from what others call a thing to what it is on a plan; the first that is in a name counts.
var words = []struct{ word, kind, is string }{
	{"drop-zone", KindZone, ""}, {"drop zone", KindZone, ""}, {"landing", KindZone, ""},
	{"way-out", KindWayOut, ""}, {"way out", KindWayOut, ""}, {"escape", KindWayOut, ""},
	{"target-building", KindTarget, "building"}, {"target-fence", KindTarget, "fence"}, {"target-power", KindTarget, "power-line"}, {"target-tree", KindTarget, "tree"},
	{"target-shrub", KindTarget, "shrub"}, {"target-road", KindTarget, "road"}, {"target-water", KindTarget, "water"}, {"target-ground", KindTarget, "ground"}, {"target", KindTarget, "other"},
	{"anchor-tree", KindAnchor, "tree"}, {"anchor-vehicle", KindAnchor, "vehicle"}, {"anchor", KindAnchor, "ground"},
	{"power", KindTarget, "power-line"}, {"overhead", KindTarget, "power-line"}, {"cable", KindTarget, "power-line"}, {"electric", KindTarget, "power-line"},
	{"building", KindTarget, "building"}, {"house", KindTarget, "building"}, {"shed", KindTarget, "building"}, {"garage", KindTarget, "building"}, {"roof", KindTarget, "building"}, {"glass", KindTarget, "building"},
	{"fence", KindTarget, "fence"}, {"wall", KindTarget, "fence"}, {"hedge", KindTarget, "shrub"}, {"shrub", KindTarget, "shrub"}, {"bush", KindTarget, "shrub"},
	{"street", KindTarget, "road"}, {"road", KindTarget, "road"}, {"path", KindTarget, "road"}, {"drive", KindTarget, "road"}, {"kerb", KindTarget, "road"}, {"pavement", KindTarget, "road"},
	{"pond", KindTarget, "water"}, {"stream", KindTarget, "water"}, {"water", KindTarget, "water"},
	{"tree", KindTree, ""}, {"trunk", KindTree, ""}, {"stem", KindTree, ""},
}

// own are kinds that a file of ours names and that are not read: of others such a word may be anything, as a lamp post.
var own = []string{KindLimb, KindSector, KindCrane, KindPost}

// layered is what a name of a layer, of a block or of a code says of a thing; nothing known: neither.
func layered(name string) (kind, is string) {
	low := strings.ToLower(strings.ReplaceAll(name, "_", "-"))
	if slices.Contains(own, low) {
		return low, ""
	}
	for _, w := range words {
		if strings.Contains(low, w.word) {
			return w.kind, w.is
		}
	}
	return "", ""
}
