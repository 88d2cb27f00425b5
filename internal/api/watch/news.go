package watch

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/roles"
	"jantrel/core/watch"
	"jantrel/internal/api/door"
	"jantrel/internal/live"
	"jantrel/internal/store"
)

// ProgramNews is what others did in a program that concerns who asks.
type ProgramNews struct {
	ID       int64        `json:"id"`
	Name     string       `json:"name"`
	Revision int64        `json:"revision" doc:"Up to which it is told"`
	News     []watch.News `json:"news" doc:"The latest first"`
	More     bool         `json:"more" doc:"Whether there are earlier ones than are told"`
}

// NewsFound is what others did that concerns who asks.
type NewsFound struct {
	Programs []ProgramNews `json:"programs" doc:"Those in which one is somebody, the oldest first"`
	LeftOut  int           `json:"leftOut" doc:"How many more there are than are looked through"`
}

func (s stage) news(ctx context.Context, _ *struct{}) (*struct{ Body NewsFound }, error) {
	found := NewsFound{Programs: []ProgramNews{}}
	name := door.VisitorOf(ctx).Account.Name
	var err error
	found.LeftOut, err = s.each(ctx, func(m store.Membership, l *live.Line, who roles.Who) error {
		state := l.State()
		news, more, err := l.News(ctx, state, who.Person, name, m.Seen)
		if err != nil {
			return s.Failed(ctx, err)
		}
		if news == nil {
			news = []watch.News{}
		}
		found.Programs = append(found.Programs, ProgramNews{m.ProgramID, state.Name, state.Revision, news, more})
		return nil
	})
	if err != nil {
		return nil, err
	}
	return &struct{ Body NewsFound }{found}, nil
}

func (s stage) see(ctx context.Context, in *struct {
	door.ProgramID
	Body struct {
		Revision int64 `json:"revision" minimum:"0" doc:"Up to which they were told"`
	}
}) (*struct{}, error) {
	l, _, err := s.OpenAs(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if now := l.State().Revision; in.Body.Revision > now {
		return nil, huma.Error422UnprocessableEntity("The program is not there yet: say up to which revision the news were told.")
	}
	if err := s.Store().SeeNews(ctx, door.VisitorOf(ctx).Account.ID, in.ID, in.Body.Revision); err != nil {
		return nil, s.Failed(ctx, err)
	}
	return nil, nil
}
