module jantrel

go 1.26.8

require (
	github.com/stretchr/testify v1.12.1 // indirect
	gonum.org/v1/gonum v0.17.0 // indirect
)
