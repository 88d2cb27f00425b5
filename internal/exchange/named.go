package exchange

import (
	"net/url"
	"regexp"
	"strings"

	"jantrel/core/briefs"
)

// named finds the items that the words of a brief name by their keys, and where each is seen.
type named map[string]string // by key: its address

// namedOf is of a brief that is seen at an address, as https://host/programs/1; empty: nowhere.
func namedOf(b *briefs.Written, address string) named {
	all := named{}
	if address == "" {
		return all
	}
	for _, item := range b.Items {
		all[item.Key] = address + "/backlog?item=" + url.QueryEscape(item.Key)
	}
	return all
}

// itemKey is how keys of items look in a text; what is part of a link, of code or of another word is left as it is.
var itemKey = regexp.MustCompile(`(^|[\s(*|])([\pL][\pL\d_]*-\d+)\b`)

// pieces calls for each piece of a text, in their order: with the address of an item where the piece is its key.
func (n named) pieces(text string, piece func(text, address string)) {
	from := 0
	if len(n) > 0 {
		for _, at := range itemKey.FindAllStringSubmatchIndex(text, -1) {
			begin, end := at[4], at[5]
			address := n[text[begin:end]]
			if address == "" || end < len(text) && strings.ContainsRune("-/]`", rune(text[end])) {
				continue
			}
			piece(text[from:begin], "")
			piece(text[begin:end], address)
			from = end
		}
	}
	piece(text[from:], "")
}

// markdown is a text of Markdown in which keys lead to their items.
func (n named) markdown(text string) string {
	var out strings.Builder
	n.pieces(text, func(text, address string) {
		if address != "" {
			text = "[" + text + "](" + address + ")"
		}
		out.WriteString(text)
	})
	return out.String()
}

// html is a plain text as HTML in which keys lead to their items.
func (n named) html(text string) string {
	var out strings.Builder
	n.pieces(text, func(text, address string) {
		if address == "" {
			out.WriteString(esc(text))
			return
		}
		out.WriteString(`<a href="` + esc(address) + `">` + esc(text) + "</a>")
	})
	return out.String()
}
