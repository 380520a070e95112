// Package projects holds the tests on whole projects: which families are seen, the first
// week of a project of strangers, merging with Git.
package projects
