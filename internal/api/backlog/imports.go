package backlog

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"jantrel/core/act"
	"jantrel/core/intake"
	"jantrel/internal/api/door"
	"jantrel/internal/exchange"
)

// readSheet is a file as a table, with the fields that its headings are taken for.
type readSheet struct {
	exchange.Sheet
	Columns []string `json:"columns"`
}

func (s stage) imports(api huma.API) {
	huma.Register(api, huma.Operation{
		OperationID: "read-table", Method: http.MethodPost, Path: "/api/v1/programs/{id}/tables", Summary: "A CSV or XLSX file as a table; nothing is kept",
		MaxBodyBytes: exchange.MaxSheet + 1, BodyReadTimeout: door.ImportTime, SkipValidateBody: true,
	}, func(_ context.Context, in *struct {
		door.ProgramID
		RawBody []byte `contentType:"application/octet-stream"`
	}) (*struct{ Body readSheet }, error) {
		sheet, err := exchange.ReadSheet(in.RawBody)
		if err != nil {
			return nil, huma.Error422UnprocessableEntity(err.Error())
		}
		return &struct{ Body readSheet }{readSheet{sheet, intake.Guess(sheet.Headings)}}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "check-import", Method: http.MethodPost, Path: "/api/v1/programs/{id}/imports/check", Summary: "What taking a table in would do, row by row",
		MaxBodyBytes: door.MaxIntent, BodyReadTimeout: door.ImportTime,
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body act.TakeIn
	}) (*struct{ Body intake.Result }, error) {
		l, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		state := l.State()
		return &struct{ Body intake.Result }{in.Body.Read(state.Acting())}, nil
	})
	huma.Register(api, huma.Operation{
		OperationID: "check-outline", Method: http.MethodPost, Path: "/api/v1/programs/{id}/outlines/check", Summary: "An outline as it would be taken in, line by line",
		MaxBodyBytes: door.MaxIntent,
	}, func(ctx context.Context, in *struct {
		door.ProgramID
		Body act.AddOutline
	}) (*struct{ Body []intake.Node }, error) {
		l, err := s.Open(ctx, in.ID)
		if err != nil {
			return nil, err
		}
		nodes, err := in.Body.Read(l.State().Acting())
		if err != nil {
			return nil, s.Problem(ctx, err)
		}
		return &struct{ Body []intake.Node }{nodes}, nil
	})
}
