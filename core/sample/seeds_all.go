//go:build long

package sample

const share = 1
