package main

import (
	"io"
	"net"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Who has as many connections open as one may is told to come again, until one of theirs is closed.
func TestConnectionsAreLimited(t *testing.T) {
	t.Parallel()
	inner, err := net.Listen("tcp", "127.0.0.1:0")
	require.NoError(t, err)
	defer func() { _ = inner.Close() }()
	l := limit(inner, 3, 2)
	accepted := make(chan net.Conn, 5)
	go func() {
		for {
			conn, err := l.Accept()
			if err != nil {
				return
			}
			accepted <- conn
		}
	}()
	dial := func() net.Conn {
		conn, err := net.Dial("tcp", inner.Addr().String())
		require.NoError(t, err)
		return conn
	}
	first, second := dial(), dial()
	defer func() { _ = second.Close() }()
	served := <-accepted
	<-accepted
	third := dial()
	told, err := io.ReadAll(third)
	require.NoError(t, err)
	assert.Contains(t, string(told), "503 Service Unavailable")
	assert.Empty(t, accepted)

	require.NoError(t, first.Close())
	require.NoError(t, served.Close())
	require.Error(t, served.Close(), "counted once")
	fourth := dial()
	defer func() { _ = fourth.Close() }()
	<-accepted
	assert.Equal(t, 2, l.all)
	assert.True(t, l.enter("198.51.100.7"), "others have theirs")
	assert.False(t, l.enter("198.51.100.8"), "but three in all")
	l.leave("198.51.100.7")
	assert.Equal(t, map[string]int{"127.0.0.1": 2}, l.from)
}
