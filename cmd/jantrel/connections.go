package main

import (
	"io"
	"net"
	"sync"
)

// Limits of connections. Each that is open takes memory, and a file of the system's.
const (
	mostConnections = 8000
	fromOneAddress  = mostConnections / 2 // an office behind one address, and the proxy in front of a server
)

// limited is a listener that turns away whoever would have more connections open than there may be, in all or from one
// address: the others get theirs.
type limited struct {
	net.Listener
	most, each int

	mu   sync.Mutex
	all  int
	from map[string]int // by address
}

func limit(l net.Listener, most, each int) *limited {
	return &limited{Listener: l, most: most, each: each, from: map[string]int{}}
}

// full is what who is turned away reads.
const full = "HTTP/1.1 503 Service Unavailable\r\nRetry-After: 10\r\nConnection: close\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n" +
	"Very many connections are open at the moment. Try again in a few seconds.\n"

// Accept implements [net.Listener].
func (l *limited) Accept() (net.Conn, error) {
	for {
		conn, err := l.Listener.Accept()
		if err != nil {
			return nil, err
		}
		address, _, err := net.SplitHostPort(conn.RemoteAddr().String())
		if err != nil {
			address = conn.RemoteAddr().String()
		}
		if l.enter(address) {
			return &counted{Conn: conn, leave: sync.OnceFunc(func() { l.leave(address) })}, nil
		}
		_, _ = io.WriteString(conn, full) // small enough to wait for nobody
		_ = conn.Close()
	}
}

func (l *limited) enter(address string) bool {
	l.mu.Lock()
	defer l.mu.Unlock()
	if l.all >= l.most || l.from[address] >= l.each {
		return false
	}
	l.all++
	l.from[address]++
	return true
}

func (l *limited) leave(address string) {
	l.mu.Lock()
	defer l.mu.Unlock()
	l.all--
	if l.from[address]--; l.from[address] == 0 {
		delete(l.from, address)
	}
}

// counted is a connection that makes room when it is closed.
type counted struct {
	net.Conn
	leave func()
}

// Close implements [net.Conn].
func (c *counted) Close() error {
	defer c.leave()
	return c.Conn.Close()
}
