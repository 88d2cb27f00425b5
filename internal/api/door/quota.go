package door

import (
	"math"
	"net/http"
	"sync"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humagin"
	"golang.org/x/time/rate"

	"jantrel/internal/account"
)

// Quotas are how much one account, all who edit one program, and who comes without an account may ask of the server. Each
// has a store that fills up evenly: what was not used for a while may be used at once. The
// zero value sets none.
type Quotas struct {
	Requests       float64 // of an account, a second
	Edits          float64 // of an account, a second
	ProgramEdits   float64 // of a program, a second
	EditBytes      float64 // of bodies of edits of an account, a second
	Link           float64 // of a link that needs no account, a second
	Network        float64 // of those in a network who have no account, a second
	RequestsAtOnce int     // how much each store holds
	EditsAtOnce    int
	ProgramAtOnce  int
	BytesAtOnce    int
	LinkAtOnce     int
	NetworkAtOnce  int
}

// Usual are the quotas of a server with so many edits of an account a minute: ten times what
// a person at a keyboard makes, so that pages never meet them and scripts are told to wait.
func Usual(editsPerMinute float64) Quotas {
	if editsPerMinute <= 0 {
		return Quotas{}
	}
	edits := editsPerMinute / 60
	return Quotas{
		Requests: 10 * edits, RequestsAtOnce: int(2 * editsPerMinute),
		Edits: edits, EditsAtOnce: int(max(1, editsPerMinute/2)),
		ProgramEdits: 10 * edits, ProgramAtOnce: int(max(1, 2*editsPerMinute)),
		EditBytes: 256 << 10, BytesAtOnce: 300 << 20,
		Link: edits / 5, LinkAtOnce: int(max(1, editsPerMinute/10)),
		Network: edits, NetworkAtOnce: int(max(1, editsPerMinute/2)),
	}
}

// quotas are the stores that are in use.
type quotas struct {
	mu   sync.Mutex
	used map[quotaOf]*rate.Limiter
}

type quotaOf struct {
	what string
	id   int64
}

// maxQuotas is how many stores are kept: full ones are forgotten first.
const maxQuotas = 10_000

// take takes n from a store, or returns how long to wait until it has them.
func (q *quotas) take(of quotaOf, every float64, holds, n int, now time.Time) (wait time.Duration) {
	if every <= 0 {
		return 0
	}
	q.mu.Lock()
	defer q.mu.Unlock()
	limiter := q.used[of]
	if limiter == nil {
		if q.used == nil {
			q.used = map[quotaOf]*rate.Limiter{}
		}
		if len(q.used) >= maxQuotas {
			for key, l := range q.used {
				if l.TokensAt(now) >= float64(l.Burst()) {
					delete(q.used, key)
				}
			}
		}
		limiter = rate.NewLimiter(rate.Limit(every), holds)
		q.used[of] = limiter
	}
	if n = min(n, holds); limiter.AllowN(now, n) {
		return 0
	}
	missing := float64(n) - limiter.TokensAt(now)
	return time.Duration(math.Ceil(missing/every)) * time.Second
}

// Pace keeps each account to its quota of requests, and those who have none to that of their network. It is to be called
// after Authenticate.
func (d *Door) Pace(api huma.API) func(huma.Context, func(huma.Context)) {
	return func(ctx huma.Context, next func(huma.Context)) {
		v := VisitorOf(ctx.Context())
		of, every, atOnce, says := quotaOf{"requests", v.Account.ID}, d.Quotas.Requests, d.Quotas.RequestsAtOnce, "Your account has sent very many requests. "
		if v.Account.ID == 0 {
			of, every, atOnce, says = quotaOf{"network " + account.NetworkOf(v.Address), 0}, d.Quotas.Network, d.Quotas.NetworkAtOnce, "Very many requests came from your network. "
		}
		if wait := d.used.take(of, every, atOnce, 1, time.Now()); wait > 0 {
			refuse(api, ctx, Later(says+inSeconds(wait), wait))
			return
		}
		next(ctx)
	}
}

// paceLink keeps whoever has a link to its quota.
func (d *Door) paceLink(id int64) error {
	if wait := d.used.take(quotaOf{"link", id}, d.Quotas.Link, d.Quotas.LinkAtOnce, 1, time.Now()); wait > 0 {
		return Later("This link was followed very often. "+inSeconds(wait), wait)
	}
	return nil
}

// paced keeps edits of a program to the quotas of its account and of the program.
func (d *Door) paced(ctx huma.Context, program int64) error {
	o := ctx.Operation()
	if o.Method == http.MethodGet || o.Metadata["asks"] != nil {
		return nil
	}
	account := VisitorOf(ctx.Context()).Account.ID
	if wait := d.used.take(quotaOf{"edits", account}, d.Quotas.Edits, d.Quotas.EditsAtOnce, 1, time.Now()); wait > 0 {
		return over("Your account has made very many edits. A script can send many changes as one edit.", wait)
	}
	if wait := d.used.take(quotaOf{"program", program}, d.Quotas.ProgramEdits, d.Quotas.ProgramAtOnce, 1, time.Now()); wait > 0 {
		return over("Very many edits are made in this program.", wait)
	}
	size := humagin.Unwrap(ctx).Request.ContentLength
	if size < 0 && !isJSON(o) { // JSON is counted when it has been read
		size = o.MaxBodyBytes
	}
	return d.pacedBytes(ctx, int(max(0, size)))
}

// pacedBytes keeps what an account sends to its quota.
func (d *Door) pacedBytes(ctx huma.Context, size int) error {
	of := quotaOf{"bytes", VisitorOf(ctx.Context()).Account.ID}
	if wait := d.used.take(of, d.Quotas.EditBytes, d.Quotas.BytesAtOnce, size, time.Now()); wait > 0 {
		return over("Your account has sent very much data.", wait)
	}
	return nil
}

func over(says string, wait time.Duration) error {
	return Later("Nothing was changed. "+says+" "+inSeconds(wait), wait)
}
