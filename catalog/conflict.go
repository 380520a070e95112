package catalog

// ConflictMark is how the note of an entry begins that a merge left in conflict,
// and ConflictAside what the key of the other side's text ends with where the
// file holds no notes.
const (
	ConflictMark  = "Merge conflict: "
	ConflictAside = "__theirs"
)
